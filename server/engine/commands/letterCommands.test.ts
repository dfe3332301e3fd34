import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { field, words } from '#core/letters/authoring.ts'
import { contentOf } from '#core/letters/content.ts'
import type { LetterContent } from '#core/model/letter.ts'
import { addBookedClient, call, openExample } from '../../testing/seed.ts'
import type { RunningApplication } from '../runningApplication.ts'

const id = 'lt_starter-reminder'
let running: RunningApplication

beforeAll(async () => {
  running = await openExample()
})
afterAll(() => running.end())

const letter = () => {
  const found = running.application.settings.required().letters.find((one) => one.id === id)
  if (!found) throw new Error('no reminder')
  return found
}

test('what is planned with a letter follows at once when it needs a value that somebody lacks', () => {
  const { application, commands } = running
  addBookedClient(application, commands, 'Oona', 'oona@brackwater.example')
  const clientId = String(application.store.statements.all('allClientIds')[0]?.['id'])
  const planned = () =>
    (application.sliceOf(clientId, 'everything')?.facts.sends ?? [])
      .filter(({ letterId }) => letterId === id)
      .map(({ state, reason }) => (state === 'blocked' ? reason?.sentence : state))
  const save = (content: LetterContent) =>
    expect(commands.saveLetter(call('saveLetter'), id, letter().version, content).ok).toBe(true)
  const first = contentOf(letter())
  const before = planned()
  expect(before).not.toHaveLength(0)
  expect(before).not.toContain('blocked')
  save({ ...first, subject: words`By ${field('invoice.dueDate')}` })
  expect(planned()).toEqual(before.map(() => 'The letter needs a value that is missing: Due date.'))
  save({ ...first, subject: words`By ${field('invoice.dueDate', 'then')}` })
  expect(planned()).toEqual(before)
})
