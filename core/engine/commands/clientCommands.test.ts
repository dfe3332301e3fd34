import { describe, expect, test } from '@jest/globals'
import { startRule } from '../../model/sequence.ts'
import { factsOf, type Settings } from '../../planning/slice.ts'
import { exampleClient, exampleSettings, exampleStep } from '../../rehearsal/exampleBusiness.ts'
import { minuteMs } from '../../time/calendar.ts'
import { createWorld } from '../../rehearsal/world.ts'
import { realZones } from '../../time/realZones.ts'
import { addClient, changeClient, clientInput, type ClientInput } from './clientCommands.ts'
import { hypothetical } from '../consequences/consequences.ts'

const settings = exampleSettings(realZones)
const context = hypothetical(1000)
const { name, zone, language, contacts, namedDates, tags, takesPromotional, isActive } = exampleClient
const input: ClientInput = { name, zone, language, contacts, namedDates, tags, takesPromotional, isActive }
const asNew: ClientInput = { ...input, contacts: contacts.map((contact) => ({ ...contact, id: null })) }

const sentence = (result: ReturnType<typeof addClient>) => (result.ok ? null : result.problem.sentence)

describe('adding a client', () => {
  test('gives client and contacts ids, a first revision and an event', () => {
    const added = addClient(settings, asNew, context)
    if (!added.ok) throw new Error(added.problem.sentence)
    expect(added.value).toMatchObject([
      { kind: 'put client', client: { name, revision: 1, addedAt: 1000 } },
      { kind: 'append event', event: { kind: 'client added', sentence: 'Client added: Enno Brackwater.' } },
    ])
  })

  test('refuses ids that cannot be known yet, and zones that do not exist', () => {
    expect(sentence(addClient(settings, input, context))).toMatch('no contacts with ids')
    expect(sentence(addClient(settings, { ...asNew, zone: 'Moon/Tranquility' }, context))).toMatch(
      'no time zone named',
    )
  })
})

test('with a real mail account an address that cannot be real is refused, and one from before does not hold up the rest', () => {
  const real: Settings = { ...settings, isRealMail: true }
  expect(addClient(real, asNew, context)).toMatchObject({
    ok: false,
    problem: { code: 'invalid', field: 'contacts.0.email' },
  })
  expect(sentence(addClient(real, asNew, context))).toMatch('names ending in example')
  const slice = { settings: real, facts: factsOf(exampleClient) }
  expect(
    sentence(changeClient(slice, exampleClient.revision, { ...input, name: 'Brackwater' }, context)),
  ).toBe(null)
  const other = input.contacts.map((one) => ({ ...one, email: 'new@house.test' }))
  expect(
    sentence(changeClient(slice, exampleClient.revision, { ...input, contacts: other }, context)),
  ).toMatch('new@house.test cannot be a real address')
})

describe('a client’s data', () => {
  test.each([
    ['no contact at all', { contacts: [] }, 'at least one contact'],
    ['two primary contacts', { contacts: [asNew.contacts[0], asNew.contacts[0]] }, 'Exactly one contact'],
    [
      'a yearly date that is none',
      { namedDates: [{ label: 'x', monthDay: '02-30', year: null }] },
      'no such day',
    ],
    ['a name with a line break', { name: 'A\nB' }, 'Line breaks'],
  ])('%s is refused', (_, part, words) => {
    const parsed = clientInput.safeParse({ ...asNew, ...part })
    expect(parsed.success ? '' : parsed.error.issues.map(({ message }) => message).join()).toMatch(words)
  })

  test('29 February is a yearly date', () => {
    const parsed = clientInput.safeParse({
      ...asNew,
      namedDates: [{ label: 'birthday', monthDay: '02-29', year: null }],
    })
    expect(parsed.success).toBe(true)
  })
})

describe('changing a client', () => {
  const world = () => createWorld(settings, exampleClient, 1000)

  test('refuses an old revision and contacts of others', () => {
    const slice = world().slice()
    expect(sentence(changeClient(slice, 9, input, context))).toMatch('changed this client meanwhile')
    const foreign = { ...input, contacts: contacts.map((contact) => ({ ...contact, id: 'ct_other' })) }
    expect(sentence(changeClient(slice, 1, foreign, context))).toMatch('does not belong')
  })

  test('keeps a contact that messages were planned for', () => {
    const own = world()
    const facts = own.facts()
    const sends = [{ recipientId: 'ct_1', runId: 'ru_1', state: 'sent' }] as unknown as typeof facts.sends
    const replaced = { ...input, contacts: contacts.map((contact) => ({ ...contact, id: null })) }
    const refused = changeClient({ settings, facts: { ...facts, sends } }, 1, replaced, context)
    expect(sentence(refused)).toMatch('stays: take its address out instead')
  })

  test('a new tag is an act that starts a sequence; a tag that was there is not', () => {
    const onTag: Settings = {
      ...settings,
      sequenceVersions: settings.sequenceVersions.map((version) => ({
        ...version,
        start: startRule.parse({ on: 'tag added', name: 'voucher' }),
        steps: [exampleStep({ id: 'st_x', purpose: 'confirmation', timing: { kind: 'at once' } })],
      })),
    }
    const own = createWorld(onTag, exampleClient, 1000)
    own.carryOut(changeClient(own.slice(), 1, { ...input, tags: ['regular'] }, own.context()))
    expect(own.facts().runs).toHaveLength(0)
    own.carryOut(changeClient(own.slice(), 2, { ...input, tags: ['regular', 'voucher'] }, own.context()))
    own.advance(own.now() + 2 * minuteMs)
    expect(own.facts().runs).toHaveLength(1)
    own.carryOut(changeClient(own.slice(), 3, { ...input, tags: ['voucher'] }, own.context()))
    own.advance(own.now() + 2 * minuteMs)
    expect(own.facts().runs).toHaveLength(1)
  })
})
