import { noAllowance } from '#core/model/allowance.ts'
import { standardOffer } from '#core/model/offer.ts'
import type { FirstRunInput } from '#core/api/endpoints.ts'
import { plainPerson, type Business, type Person } from '#core/model/business.ts'
import { realZones } from '#core/time/realZones.ts'
import { noSuchZone } from '#core/time/zones.ts'
import { starterLetters } from '#core/sequences/starterLetters.ts'
import { starterVersion } from '#core/sequences/starters.ts'
import { addPerson, addSequence, putService, writeBusiness } from '../../db/settingsStore.ts'
import { putLetter } from '../../db/letterStore.ts'
import { Refusal } from '../../http/problems.ts'
import { hashPassword } from '../../session/password.ts'
import { newId } from '../ids.ts'
import type { Application } from '../application.ts'

const workingDay = [{ from: '08:00', to: '17:00' }]
const everyDay = [{ from: '08:00', to: '20:00' }]

function businessOf(input: Omit<FirstRunInput, 'word'>): Business {
  return {
    name: input.businessName,
    zone: input.zone,
    postalAddress: input.postalAddress,
    phone: input.phone,
    senderName: input.businessName,
    senderAddress: input.senderAddress,
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
    allowance: noAllowance,
    revision: 1,
  }
}

/**
 * Sets an empty database up. The letters to start from and a sequence of them are there afterwards: nobody gets any of
 * it until the letters were read and the sequence went live.
 */
export async function setUp(application: Application, input: Omit<FirstRunInput, 'word'>): Promise<Person> {
  if (!realZones.has(input.zone)) {
    const detail = noSuchZone(input.zone)
    throw new Refusal('invalid', detail, [{ path: 'zone', detail }])
  }
  const passwordHash = await hashPassword(input.password)
  const person: Person = {
    id: newId('pe'),
    name: input.personName,
    email: input.personEmail,
    role: 'owner',
    isActive: true,
    ...plainPerson,
    revision: 1,
  }
  const { store, settings, clock } = application
  store.transaction(() => {
    if (settings.current()) throw new Refusal('not allowed now', 'This database has been set up already.')
    const { statements } = store
    writeBusiness(statements, businessOf(input))
    addPerson(statements, person, passwordHash)
    if (input.service) {
      putService(statements, {
        ...input.service,
        id: newId('sv'),
        placeZone: null,
        offer: standardOffer,
        revision: 1,
        isActive: true,
      })
    }
    starterLetters.forEach((letter) =>
      putLetter(statements, { ...letter, isStarter: true, changedAt: clock.now() }, null),
    )
    addSequence(
      statements,
      {
        id: starterVersion.sequenceId,
        name: 'Confirmation and reminder',
        state: 'draft',
        liveSince: null,
        currentVersion: 1,
      },
      starterVersion,
    )
  })
  settings.forget()
  return person
}
