import { realZones } from '#core/time/realZones.ts'
import { offers } from './offers.ts'
import { noAllowance } from '#core/model/allowance.ts'
import { plainPerson, type Business, type Person, type Service } from '#core/model/business.ts'

const everyDay = [{ from: '08:00', to: '20:00' }]
const workingDay = [{ from: '08:00', to: '17:00' }]

/** Thistledown Aloft, a made-up balloon operator in a made-up valley. */
export const business: Business = {
  name: 'Thistledown Aloft',
  zone: 'Europe/Berlin',
  postalAddress: 'Thistledown Aloft, Sägewiese 4, 00000 Unterau',
  phone: '+49 000 5550142',
  senderName: 'Thistledown Aloft',
  senderAddress: 'hello@thistledown.example',
  sendingHours: { weekly: Array.from({ length: 7 }, () => everyDay), holidays: 'open', closedDates: [] },
  officeHours: {
    weekly: Array.from({ length: 7 }, (_, index) => (index < 5 ? workingDay : [])),
    holidays: 'closed',
    closedDates: [],
  },
  holidayRegion: { country: 'DE', subdivision: null },
  completesAfterHours: 12,
  settleMinutes: 2,
  leapDay: '28 February',
  promotionalPerDay: 1,
  promotionalGapHours: 24,
  moveThresholdMinutes: 15,
  sharedMailbox: null,
  replyTo: null,
  allowance: { ...noAllowance, perDay: 500, perMonth: 12_000 },
  revision: 1,
}

/** Whose clock the demo’s story is told by. */
export const businessZone = realZones.zone(business.zone)

export const people: readonly Person[] = [
  {
    id: 'pe_ilse',
    name: 'Ilse Thornquist',
    email: 'ilse@thistledown.example',
    role: 'owner',
    isActive: true,
    ...plainPerson,
    revision: 1,
  },
  {
    id: 'pe_bram',
    name: 'Bram Oakhollow',
    email: 'bram@thistledown.example',
    role: 'helper',
    isActive: true,
    ...plainPerson,
    revision: 1,
  },
  {
    id: 'pe_maren',
    name: 'Maren Feldwisch',
    email: 'maren@thistledown.example',
    role: 'helper',
    isActive: true,
    ...plainPerson,
    revision: 1,
  },
]

export const services: readonly Service[] = [
  {
    id: 'sv_sunrise',
    name: 'Sunrise flight',
    place: 'Old sawmill meadow, Unterau',
    placeZone: null,
    durationMinutes: 210,
    seats: 8,
    offer: offers.sunrise,
    revision: 1,
    isActive: true,
  },
  {
    id: 'sv_evening',
    name: 'Evening flight',
    place: 'River landing, Unterau',
    placeZone: null,
    durationMinutes: 210,
    seats: 8,
    offer: offers.evening,
    revision: 1,
    isActive: true,
  },
  {
    id: 'sv_private',
    name: 'Private basket',
    place: 'Old sawmill meadow, Unterau',
    placeZone: null,
    durationMinutes: 240,
    seats: 2,
    offer: offers.private,
    revision: 1,
    isActive: true,
  },
  {
    id: 'sv_island',
    name: 'Island flight',
    place: 'Harbour field, São Tibério',
    placeZone: 'Atlantic/Azores',
    durationMinutes: 180,
    seats: 6,
    offer: offers.island,
    revision: 1,
    isActive: true,
  },
  {
    id: 'sv_groundschool',
    name: 'Evening on the ground',
    place: 'Balloon shed, Unterau',
    placeZone: null,
    durationMinutes: 120,
    seats: 12,
    offer: offers.groundschool,
    revision: 1,
    isActive: true,
  },
]
