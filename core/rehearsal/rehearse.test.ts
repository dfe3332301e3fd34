import { expect, test } from '@jest/globals'
import type { Settings } from '../planning/slice.ts'
import { dateAndTime } from '../time/format.ts'
import { realZones } from '../time/realZones.ts'
import { at, exampleSettings } from './exampleBusiness.ts'
import { rehearse } from './rehearse.ts'

const berlin = realZones.zone('Europe/Berlin')
const ada = { name: 'Ada Windermeer', email: 'ada@kiteworks.example' }
const of = {
  now: at(realZones, 'Europe/Berlin', '2026-05-14 07:40'),
  testUrl: 'https://kiteworks.example/test',
}
const read = exampleSettings(realZones).letters.map((letter) => ({ ...letter, isStarter: false }))
const settings: Settings = { ...exampleSettings(realZones), letters: read }

const messagesOf = (own: Settings) => {
  const rehearsed = rehearse(own, ada, of)
  if (!rehearsed.ok) throw new Error(rehearsed.problem.sentence)
  return rehearsed.value
}
const sentenceOf = (own: Settings) => {
  const rehearsed = rehearse(own, ada, of)
  return rehearsed.ok ? null : rehearsed.problem.sentence
}

test('who looks on gets what somebody would get who books now for 10:00 in eight days', () => {
  const messages = messagesOf(settings)
  // 14 May 2026 is a Thursday: the lesson is on Friday 22 May, its reminder goes the evening before.
  expect(messages.map((message) => dateAndTime(berlin, message.at))).toEqual([
    'Thu 14 May 2026, 07:40',
    'Thu 21 May 2026, 18:00',
  ])
  expect(messages.map(({ to }) => to.address)).toEqual([ada.email, ada.email])
  const [confirmation, reminder] = messages
  expect(confirmation?.subject).toMatch(/^Rehearsal, for Thu 14 May 2026, 07:40: /)
  expect(confirmation?.text).toContain('Hello Ada,')
  expect(reminder?.text).toContain('tomorrow')
  expect(reminder?.text).toContain('10:00')
})

test('what waits for approval is rehearsed too, and while sending is held back or reaches a few alone', () => {
  const sequenceVersions = settings.sequenceVersions.map((version) => ({
    ...version,
    steps: version.steps.map((step) => ({ ...step, needsApproval: true })),
  }))
  const messages = messagesOf({
    ...settings,
    sequenceVersions,
    isSendingOn: false,
    onlyTo: ['somebody@else.example'],
  })
  expect(messages).toHaveLength(2)
})

test('its links are links of a test, which let nobody in anywhere', () => {
  const text = messagesOf(settings)
    .map((message) => `${message.text} ${message.html ?? ''} ${message.optOutUrl ?? ''}`)
    .join(' ')
  expect(text).not.toMatch(/kiteworks\.example\/(?:choose|yours|all|pay)/)
})

test('where nothing would go it says why', () => {
  expect(sentenceOf({ ...settings, services: [] })).toBe('There is no service that could be booked yet.')
  const drafts = settings.sequences.map((sequence) => ({ ...sequence, state: 'draft' as const }))
  expect(sentenceOf({ ...settings, sequences: drafts })).toBe(
    'No sequence is live yet, so nothing would go to anybody.',
  )
  const unread = read.map((letter) => ({ ...letter, isStarter: true }))
  expect(sentenceOf({ ...settings, letters: unread })).toMatch(/published/)
})
