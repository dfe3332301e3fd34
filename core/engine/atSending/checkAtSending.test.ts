import { describe, expect, test } from '@jest/globals'
import type { Send } from '../../model/send.ts'
import { isMessage, plainStep } from '../../model/step.ts'
import type { Slice } from '../../planning/slice.ts'
import { at, exampleBookingInput, exampleClient, exampleSettings } from '../../rehearsal/exampleBusiness.ts'
import { createWorld } from '../../rehearsal/world.ts'
import { realZones } from '../../time/realZones.ts'
import { makeBooking } from '../commands/bookingCommands.ts'
import { checkAtSending, wordsAt } from './checkAtSending.ts'
import { languageOfWords } from './foresight.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const due = moment('2026-05-15 18:00')

/** The reminder of a booking at the moment it is due, with everything it hangs on. */
function reminder(): { readonly send: Send; readonly slice: Slice } {
  const world = createWorld(exampleSettings(realZones), exampleClient, moment('2026-05-14 07:40'))
  world.carryOut(makeBooking(world.slice(), exampleBookingInput, () => 0, world.context()))
  const send = world.facts().sends.find(({ stepId }) => stepId === 'st_evening')
  if (!send) throw new Error('no reminder')
  return { send, slice: world.slice() }
}

const { send, slice } = reminder()
const { settings, facts } = slice
const withClient = (part: Partial<Slice['facts']['client']>): Slice => ({
  ...slice,
  facts: { ...facts, client: { ...facts.client, ...part } },
})
const withSettings = (part: Partial<Slice['settings']>): Slice => ({
  ...slice,
  settings: { ...settings, ...part },
})
const contactsWith = (email: string | null) => facts.client.contacts.map((one) => ({ ...one, email }))

/** The same slice with its steps promotional. */
const promotional = (of: Slice): Slice => ({
  ...of,
  settings: {
    ...of.settings,
    sequenceVersions: of.settings.sequenceVersions.map((version) => ({
      ...version,
      steps: version.steps.map((one) =>
        one.kind === 'mail' ? { ...one, purpose: 'promotional' as const } : one,
      ),
    })),
  },
})

describe('the check in the moment of sending', () => {
  test('lets a message go for which everything still holds', () => {
    expect(checkAtSending(send, slice, due)).toMatchObject({ goes: true, message: { at: due } })
  })

  test.each([
    ['sending is held back', send, withSettings({ isSendingOn: false }), 'missed', 'missed'],
    [
      'its sequence is not live',
      send,
      withSettings({ sequences: settings.sequences.map((one) => ({ ...one, state: 'paused' as const })) }),
      'missed',
      'missed',
    ],
    ['the client is inactive', send, withClient({ isActive: false }), 'cancelled', 'client inactive'],
    [
      'the client has opted out of promotional mail',
      send,
      promotional(withClient({ takesPromotional: false })),
      'blocked',
      'no consent',
    ],
    ['there is no address', send, withClient({ contacts: contactsWith(null) }), 'blocked', 'no address'],
    ['the address is none', send, withClient({ contacts: contactsWith('at home') }), 'blocked', 'no address'],
    ['the address cannot be real', send, withSettings({ isRealMail: true }), 'blocked', 'no address'],
    ['its last useful moment has passed', { ...send, notAfter: due - 1 }, slice, 'missed', 'too late'],
    ['its letter is gone', send, withSettings({ letters: [] }), 'blocked', 'gone'],
    [
      'nobody has read its letter',
      send,
      withSettings({ letters: settings.letters.map((one) => ({ ...one, isStarter: true })) }),
      'blocked',
      'unread letter',
    ],
    [
      'a field of its letter is missing',
      send,
      withSettings({
        business: { ...settings.business, name: ' ' },
        letters: settings.letters.map((one) => ({
          ...one,
          subject: [
            { kind: 'field' as const, field: 'business.name' as const, ifMissing: { kind: 'hold' as const } },
          ],
        })),
      }),
      'blocked',
      'missing field',
    ],
  ] as const)('stops it where %s', (_, of, against, state, code) => {
    expect(checkAtSending(of, against, due)).toMatchObject({ goes: false, state, reason: { code } })
  })

  test('a promotional message goes to who takes it', () => {
    expect(checkAtSending(send, promotional(withClient({ takesPromotional: true })), due)).toMatchObject({
      goes: true,
      message: { optOutUrl: `https://kiteworks.example/choose/${exampleClient.id}` },
    })
  })
})

describe('what a message would have said', () => {
  const subject = checkAtSending(send, slice, due)
  const meant = subject.goes ? subject.message?.subject : null

  test.each([
    ['sending was held back', withSettings({ isSendingOn: false })],
    ['its last useful moment has passed', slice],
    ['the client is inactive', withClient({ isActive: false })],
  ])('is known although %s', (_, against) => {
    expect(wordsAt({ ...send, state: 'missed', notAfter: due - 1 }, against, due)?.subject).toBe(meant)
  })

  test('is not where it cannot be filled', () => {
    expect(wordsAt(send, withSettings({ letters: [] }), due)).toBeNull()
    expect(wordsAt(send, withClient({ contacts: contactsWith(null) }), due)).toBeNull()
  })
})

test('words for a client are in the client’s language, a note to staff is in that of the team', () => {
  const timing = { kind: 'at once' }
  const words = [{ kind: 'text', text: 'Hello.' }]
  const note = plainStep.parse({ kind: 'note to staff', id: 'st_note', timing, about: 'A note', words })
  const text = plainStep.parse({ kind: 'text message', id: 'st_text', purpose: 'reminder', timing, words })
  if (!isMessage(note) || !isMessage(text)) throw new Error('both are messages')
  expect(languageOfWords(note, { language: 'de' })).toBe('en')
  expect(languageOfWords(text, { language: 'de' })).toBe('de')
})
