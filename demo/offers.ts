import { standardOffer, type Departure, type Offer, type Question } from '#core/model/offer.ts'

const daily = [1, 2, 3, 4, 5, 6, 7]

/** Flights follow the sun: one line of departures a month. */
const sunrise: readonly Departure[] = [
  { at: '06:00', weekdays: daily, from: '2026-04-01', to: '2026-04-30' },
  { at: '05:20', weekdays: daily, from: '2026-05-01', to: '2026-05-31' },
  { at: '05:05', weekdays: daily, from: '2026-06-01', to: '2026-07-15' },
  { at: '05:30', weekdays: daily, from: '2026-07-16', to: '2026-08-31' },
  { at: '06:30', weekdays: daily, from: '2026-09-01', to: '2026-10-31' },
]
const evening: readonly Departure[] = [
  { at: '18:30', weekdays: [4, 5, 6, 7], from: '2026-04-01', to: '2026-04-30' },
  { at: '19:30', weekdays: [4, 5, 6, 7], from: '2026-05-01', to: '2026-08-31' },
  { at: '17:30', weekdays: [4, 5, 6, 7], from: '2026-09-01', to: '2026-10-31' },
]

const weight: Question = {
  id: 'qu_weight',
  kind: 'line',
  label: 'Weight of everybody together, in kg',
  isRequired: true,
}
const heard: Question = {
  id: 'qu_heard',
  kind: 'choice',
  label: 'How did you hear of us?',
  options: ['From friends', 'A voucher', 'I saw you fly', 'Somewhere else'],
  isRequired: false,
}

const flight: Offer = {
  ...standardOffer,
  isPublic: true,
  noticeHours: 24,
  horizonDays: 120,
  confirms: 'on request',
  cancelling: { freeUntilHours: 72, feePercent: 50 },
  changeUntilHours: 24,
  questions: [weight, heard],
}

/** How each service of the business is offered. */
export const offers = {
  sunrise: {
    ...flight,
    forClients: 'An hour in the air at first light, and breakfast on the meadow where we land.',
    directions: 'From the church in Unterau follow the signs to the old sawmill; park along the fence.',
    starts: { kind: 'departures', departures: [...sunrise], holidays: 'open', closedDates: [] },
    price: { cents: 21_000, per: 'person' },
    paying: { deposit: { percent: 30, withinDays: 7 }, balanceDaysBefore: 14 },
  },
  evening: {
    ...flight,
    forClients: 'Over the valley in the last light, and a toast after landing.',
    directions: 'The river landing is behind the boat house, ten minutes on foot from the station.',
    starts: { kind: 'departures', departures: [...evening], holidays: 'open', closedDates: ['2026-06-20'] },
    price: { cents: 23_000, per: 'person' },
    paying: { deposit: { percent: 30, withinDays: 7 }, balanceDaysBefore: 14 },
  },
  private: {
    ...flight,
    forClients: 'The basket for the two of you alone.',
    isShared: false,
    starts: { kind: 'departures', departures: [...sunrise], holidays: 'closed', closedDates: [] },
    noticeHours: 72,
    price: { cents: 98_000, per: 'booking' },
    paying: { deposit: { percent: 40, withinDays: 10 }, balanceDaysBefore: 21 },
    personIds: ['pe_ilse'],
  },
  island: {
    ...flight,
    isPublic: false,
    starts: {
      kind: 'departures',
      departures: [{ at: '17:30', weekdays: [6, 7], from: '2026-04-01', to: '2026-10-31' }],
      holidays: 'open',
      closedDates: [],
    },
  },
  groundschool: {
    ...flight,
    forClients:
      'How a balloon is rigged, filled and steered: two hours in our shed, for everybody who wonders.',
    starts: {
      kind: 'hours',
      hours: {
        weekly: daily.map((day) => (day === 3 || day === 4 ? [{ from: '19:00', to: '21:00' }] : [])),
        holidays: 'closed',
        closedDates: [],
      },
      everyMinutes: 120,
    },
    bufferBeforeMinutes: 30,
    bufferAfterMinutes: 30,
    confirms: 'at once',
    price: { cents: 2_500, per: 'person' },
    questions: [heard],
  },
} satisfies Readonly<Record<string, Offer>>
