import { minuteMs } from '#core/time/calendar.ts'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { field, words } from '#core/letters/authoring.ts'
import { contentOf } from '#core/letters/content.ts'
import type { LetterContent } from '#core/model/letter.ts'
import { effectOfPassage, effectOfText } from '../../letters/effect.ts'
import { readDraft } from '../../db/letterStore.ts'
import { readSend } from '../../db/sendStore.ts'
import { readMessage } from '../../db/messageStore.ts'
import { chanceFrom } from '../../testing/chance.ts'
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
    expect(
      commands.publishLetter(call('publishLetter'), id, { version: letter().version, revision: 0, content })
        .ok,
    ).toBe(true)
  const first = contentOf(letter())
  const before = planned()
  expect(before).not.toHaveLength(0)
  expect(before).not.toContain('blocked')
  save({ ...first, subject: words`By ${field('invoice.dueDate')}` })
  expect(planned()).toEqual(before.map(() => 'The letter needs a value that is missing: Due date.'))
  save({ ...first, subject: words`By ${field('invoice.dueDate', 'then')}` })
  expect(planned()).toEqual(before)
})

test('half a sentence never leaves: every message has the text that was published when it went', async () => {
  const { application, commands } = running
  const random = chanceFrom(20_260_514)
  const of = 'lt_starter-confirmation'
  const present = () => application.settings.required().letters.find((one) => one.id === of)
  const draft = () => readDraft(application.store.statements, of)
  const first = present()
  if (!first) throw new Error('no confirmation')
  const saying = (subject: string): LetterContent => ({
    ...contentOf(first),
    subject: [{ kind: 'text', text: subject }],
  })
  const writing = (content: LetterContent) => ({
    version: present()?.version ?? 0,
    revision: draft()?.revision ?? 0,
    content,
  })
  const publishedAt: { at: number; subject: string }[] = []
  const publish = (subject: string) => {
    expect(commands.publishLetter(call('publish'), of, writing(saying(subject))).ok).toBe(true)
    publishedAt.push({ at: application.clock.now(), subject })
  }
  publish('Published 0')
  const acts = [
    (index: number) =>
      expect(commands.saveLetterDraft(call('draft'), of, writing(saying(`Half a sen ${index}`))).ok).toBe(
        true,
      ),
    (index: number) => publish(`Published ${index}`),
    () => expect(commands.dropLetterDraft(call('drop'), of).ok).toBe(true),
    (index: number) => void addBookedClient(application, commands, `C${index}`, `c${index}@many.example`, 9),
  ]
  for (let index = 1; index <= 60; index += 1) {
    acts[Math.floor(random() * acts.length)]?.(index)
    await running.pump.advance(application.clock.now() + Math.floor(random() * 10) * minuteMs)
  }
  const { statements } = application.store
  const gone = statements.all('allClientIds').flatMap(({ id: clientId }) => {
    const sends = application.sliceOf(String(clientId), 'everything')?.facts.sends ?? []
    return sends
      .filter(({ letterId, sentAt }) => letterId === of && sentAt !== null)
      .map((send) => ({ subject: readMessage(statements, send.id)?.subject, at: send.sentAt ?? 0 }))
  })
  expect(gone.length).toBeGreaterThan(5)
  for (const { subject, at } of gone) {
    // What was published in the very moment it went may count either way.
    const before = publishedAt.findLast((one) => one.at < at)?.subject
    const inThatMoment = publishedAt.filter((one) => one.at === at).map((one) => one.subject)
    expect([before, ...inThatMoment]).toContain(subject)
  }
})

test('publishing says first who reads a letter differently; words of their own keep it as it is', () => {
  const { application, commands } = running
  addBookedClient(application, commands, 'Aino', 'aino@brackwater.example')
  const content = contentOf(letter())
  const present = letter()
  const same = effectOfText(running, present.id, content)
  expect(same.planned).toBeGreaterThan(0)
  expect(same.lines).toEqual([])
  expect(same.same).toBe(same.looked)
  const other = { ...content, subject: words`Something else` }
  const changed = effectOfText(running, present.id, other)
  expect(changed.lines).toHaveLength(changed.looked)
  expect(changed.lines.map(({ recipientName }) => recipientName)).toContain('Aino Brackwater')
  const variants = application.settings.required().services.map(({ id: serviceId }) => ({
    scope: { of: 'service' as const, serviceId },
    subject: content.subject,
    preheader: null,
    sections: [],
  }))
  expect(effectOfText(running, present.id, { ...other, variants }).lines).toEqual([])
})

test('other words of a passage say first who reads them, and what was approved keeps its own', () => {
  const { application, commands } = running
  const words = (text: string) => ({
    id: 'ps_dress',
    name: 'Dress',
    paragraphs: [[{ kind: 'text' as const, text }]],
    translations: [],
  })
  expect(commands.putPassage(call('putPassage'), words('Come warm.'), 0).ok).toBe(true)
  const content = contentOf(letter())
  const withPassage: LetterContent = {
    ...content,
    sections: [...content.sections, { id: 'dress', kind: 'passage', passageId: 'ps_dress' }],
  }
  const writing = { version: letter().version, revision: 0, content: withPassage }
  expect(commands.publishLetter(call('publishLetter'), id, writing).ok).toBe(true)
  const effect = effectOfPassage(running, words('Come warmer.'))
  expect(effect.lines).toHaveLength(effect.looked)
  expect(effect.lines.length).toBeGreaterThan(0)
  expect(effectOfPassage(running, words('Come warm.')).lines).toEqual([])

  const sendId = effect.lines.find(({ state }) => state === 'ready')?.sendId ?? ''
  const send = () => readSend(application.store.statements, sendId)
  for (const decision of ['hold back', 'approve'] as const) {
    const { revision } = application.store.statements.one('sendRevision', { id: sendId }) ?? {}
    expect(
      commands.decideSend(call('decideSend'), { id: sendId, revision: Number(revision) }, decision).ok,
    ).toBe(true)
  }
  expect(send()).toMatchObject({ state: 'approved', reason: null })
  const later = effectOfPassage(running, words('Come warmer.'))
  expect(later.lines.map((line) => line.sendId)).not.toContain(sendId)
  expect(later).toMatchObject({ kept: 1, planned: effect.planned - 1 })
  expect(commands.putPassage(call('putPassage'), words('Come warmer.'), 1).ok).toBe(true)
  expect(send()).toMatchObject({ state: 'approved', reason: { code: 'approved words' } })
})
