import { describe, expect, test } from '@jest/globals'
import {
  exampleBusiness,
  examplePerson,
  exampleService,
  exampleSettings,
} from '../../rehearsal/exampleBusiness.ts'
import { realZones } from '../../time/realZones.ts'
import { settingsWithEffects } from '../effects.ts'
import {
  businessInput,
  removeService,
  serviceInput,
  settingsChanged,
  type ServiceInput,
} from './settingsCommands.ts'
import { personInput, type PersonInput } from './peopleSettings.ts'

const settings = exampleSettings(realZones)
let ids = 0
const context = {
  now: Date.UTC(2026, 4, 14, 6),
  personId: examplePerson.id,
  newId: (prefix: string) => `${prefix}_new${(ids += 1)}`,
}
const input: ServiceInput = serviceInput.strip().parse(exampleService)
const change = (service: ServiceInput, id: string | null = exampleService.id, revision = 1) =>
  settingsChanged(settings, { of: 'service', id, revision, service }, context)
const offered = (part: Partial<ServiceInput['offer']>): ServiceInput => ({
  ...input,
  offer: { ...input.offer, isPublic: true, ...part },
})

describe('a service', () => {
  test('is changed under its id, with the next revision, and another one is added under its own', () => {
    const changed = change({ ...input, name: 'Surf lesson', seats: 6 })
    if (!changed.ok) throw new Error(changed.problem.sentence)
    const after = settingsWithEffects(settings, changed.value)
    expect(after.services).toMatchObject([
      { id: exampleService.id, name: 'Surf lesson', seats: 6, revision: 2 },
    ])
    const added = change({ ...input, name: 'Sail lesson' }, null)
    if (!added.ok) throw new Error(added.problem.sentence)
    expect(settingsWithEffects(settings, added.value).services).toHaveLength(2)
  })

  test.each<[string, ServiceInput, string, string]>([
    [
      'a zone there is not',
      { ...input, placeZone: 'Mars/Olympus' },
      'placeZone',
      'no time zone named Mars/Olympus',
    ],
    [
      'somebody who is not in the team',
      offered({ personIds: ['pe_gone'] }),
      'offer.personIds',
      'not in the team',
    ],
    [
      'departures without one',
      offered({ starts: { kind: 'departures', departures: [], holidays: 'open', closedDates: [] } }),
      'offer.starts.departures',
      'Add a departure',
    ],
    [
      'hours that are never long enough',
      { ...offered({}), durationMinutes: 600 },
      'offer.starts.hours',
      'longer than its bookable hours',
    ],
    [
      'a notice beyond the horizon',
      offered({ noticeHours: 100, horizonDays: 2 }),
      'offer.noticeHours',
      'longer than clients can look ahead',
    ],
  ])('with %s is refused at its field', (_, service, field, sentence) => {
    expect(change(service)).toMatchObject({
      ok: false,
      problem: { field, sentence: expect.stringContaining(sentence) },
    })
  })

  test('by the name of another one, on a revision that is no more, and one that is gone', () => {
    expect(change({ ...input, name: 'KITE LESSON' }, null)).toMatchObject({ problem: { field: 'name' } })
    expect(change({ ...input, name: 'KITE LESSON', isActive: false }, null)).toMatchObject({ ok: true })
    expect(change(input, exampleService.id, 7)).toMatchObject({ problem: { code: 'changed meanwhile' } })
    expect(change(input, 'sv_gone')).toMatchObject({ problem: { code: 'not found' } })
  })

  test.each<[string, object]>([
    ['a negative price', { ...input, offer: { ...input.offer, price: { cents: -1, per: 'person' } } }],
    ['an absurd price', { ...input, offer: { ...input.offer, price: { cents: 1e12, per: 'person' } } }],
    ['no seats', { ...input, seats: 0 }],
    ['no time', { ...input, durationMinutes: 0 }],
    [
      'a fee beyond the price',
      { ...input, offer: { ...input.offer, cancelling: { freeUntilHours: 1, feePercent: 101 } } },
    ],
    [
      'a departure that ends before it begins',
      offered({
        starts: {
          kind: 'departures',
          departures: [{ at: '10:00', weekdays: [1], from: '2026-06-02', to: '2026-06-01' }],
          holidays: 'open',
          closedDates: [],
        },
      }),
    ],
  ])('with %s is none', (_, service) => {
    expect(serviceInput.safeParse(service).success).toBe(false)
  })

  test('that is used is not deleted, and what uses it is named', () => {
    expect(
      removeService(settings, exampleService.id, ['3 bookings', 'letter “Welcome”'], context),
    ).toMatchObject({
      problem: { sentence: 'It is still used: 3 bookings, letter “Welcome”. Archive it instead.' },
    })
    expect(removeService(settings, exampleService.id, [], context)).toMatchObject({ ok: true })
    expect(removeService(settings, 'sv_gone', [], context)).toMatchObject({ ok: false })
  })
})

describe('the business', () => {
  const business = businessInput.strip().parse(exampleBusiness)
  test('is changed, with what cannot be changed left as it is', () => {
    const changed = settingsChanged(
      settings,
      { of: 'business', revision: 1, business: { ...business, name: 'Kites & Co' } },
      context,
    )
    if (!changed.ok) throw new Error(changed.problem.sentence)
    expect(settingsWithEffects(settings, changed.value).business).toEqual({
      ...exampleBusiness,
      name: 'Kites & Co',
      revision: 2,
    })
  })

  test('without any sending hours, or on a revision that is no more, is refused', () => {
    const closed = {
      ...business,
      sendingHours: { ...business.sendingHours, weekly: Array.from({ length: 7 }, () => []) },
    }
    expect(
      settingsChanged(settings, { of: 'business', revision: 1, business: closed }, context),
    ).toMatchObject({
      problem: { field: 'sendingHours' },
    })
    expect(settingsChanged(settings, { of: 'business', revision: 3, business }, context)).toMatchObject({
      problem: { code: 'changed meanwhile' },
    })
  })
})

describe('somebody of the team', () => {
  const { id, revision, ...present } = examplePerson
  const person = personInput.parse(present)
  const changed = (part: Partial<PersonInput>, of: string | null = id) =>
    settingsChanged(settings, { of: 'person', id: of, revision, person: { ...person, ...part } }, context)

  test('is added and changed', () => {
    const added = changed({ name: 'Uma', email: 'uma@kiteworks.example', role: 'helper' }, null)
    if (!added.ok) throw new Error(added.problem.sentence)
    expect(settingsWithEffects(settings, added.value).people.map(({ name }) => name)).toContain('Uma')
    const renamed = changed({ name: 'Ada W. Windermeer' })
    if (!renamed.ok) throw new Error(renamed.problem.sentence)
    expect(settingsWithEffects(settings, renamed.value).people).toMatchObject([
      { id, name: 'Ada W. Windermeer', revision: revision + 1 },
    ])
  })

  test.each<[string, Partial<PersonInput>, string | null, string, string]>([
    [
      'an address somebody has',
      { email: examplePerson.email.toUpperCase() },
      null,
      'email',
      'has this address',
    ],
    ['nobody owner any more', { role: 'helper' }, id, 'role', 'Somebody has to be the owner'],
    ['the only owner has left', { isActive: false }, id, 'role', 'Somebody has to be the owner'],
    [
      'hours that are none',
      { hours: { weekly: Array.from({ length: 7 }, () => []), holidays: 'open', closedDates: [] } },
      id,
      'hours',
      'could never be booked',
    ],
  ])('is refused: %s', (_, part, of, field, sentence) => {
    const result = changed(part, of)
    if (result.ok) throw new Error('It was accepted')
    expect(result.problem.field).toBe(field)
    expect(result.problem.sentence).toContain(sentence)
  })

  test('does not leave a service that nobody else can do', () => {
    const other = { ...examplePerson, id: 'pe_other', email: 'other@kiteworks.example' }
    const offer = { ...exampleService.offer, personIds: [id] }
    const both = { ...settings, people: [examplePerson, other], services: [{ ...exampleService, offer }] }
    const left = { of: 'person', id, revision, person: { ...person, isActive: false } } as const
    const result = settingsChanged(both, left, context)
    expect(result.ok ? '' : result.problem.sentence).toBe(
      'Nobody else can do “Kite lesson”. Say first who does it then.',
    )
  })
})
