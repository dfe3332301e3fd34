import type { LetterEffect } from '#core/api/letterEndpoints.ts'
import { sendFactsOf } from '#core/engine/atSending/mergeFacts.ts'
import { readsDifferently, type Texts } from '#core/engine/consequences/readsDifferently.ts'
import { lettersOfOtherWords } from '#core/engine/commands/letterCommands.ts'
import type { LetterContent, Passage } from '#core/model/letter.ts'
import { isClientsOwn } from '#core/sequences/recipients.ts'
import { focusOnSend } from '../db/livingStore.ts'
import { readSend } from '../db/sendStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { houseOf, problemsIn } from './lines.ts'

/** So many of the next messages are looked at one by one; the others are counted. */
const mostLooked = 60

type Line = LetterEffect['lines'][number]

/** A message that would read otherwise, and for whom; null: it stays as it is. Undefined: it cannot be looked at. */
function lineOf({ application }: RunningApplication, id: string, texts: Texts): Line | null | undefined {
  const send = readSend(application.store.statements, id)
  const slice = send && application.readableSliceOf(send.clientId, focusOnSend(send))
  if (!send || !slice) return undefined
  if (!readsDifferently(send, slice, texts, application.clock.now())) return null
  return {
    sendId: send.id,
    clientId: send.clientId,
    clientName: slice.facts.client.name,
    recipientName: sendFactsOf(send, slice)?.recipient?.name ?? '',
    isToClient: isClientsOwn(send.recipientId),
    state: send.state,
    at: send.dueAt ?? send.wantedAt,
  }
}

/** Which messages would read differently with other texts of the house. */
function effectOf(running: RunningApplication, texts: Texts): LetterEffect {
  const { application } = running
  const { statements } = application.store
  const settings = application.settings.required()
  const letterIdsJson = JSON.stringify(lettersOfOtherWords(settings, { ...settings, ...texts }))
  const counts = new Map(
    statements
      .all('countPlannedWithLetters', { letterIdsJson })
      .map(({ state, count }) => [state, Number(count)] as const),
  )
  const looked = statements
    .all('plannedWithLetters', { letterIdsJson, limit: mostLooked })
    .map(({ id }) => lineOf(running, String(id), texts))
    .filter((line) => line !== undefined)
  const lines = looked.filter((line) => line !== null)
  const kept = counts.get('approved') ?? 0
  return {
    planned: [...counts.values()].reduce((sum, count) => sum + count, 0) - kept,
    waiting: counts.get('waiting') ?? 0,
    kept,
    lines,
    looked: looked.length,
    same: looked.length - lines.length,
    problems: 0,
  }
}

/** Which messages would read differently with another text of a letter. */
export function effectOfText(
  running: RunningApplication,
  letterId: string,
  content: LetterContent,
): LetterEffect {
  const { letters, passages } = running.application.settings.required()
  const written = letters.map((one) => (one.id === letterId ? { ...one, ...content } : one))
  const own = written.find(({ id }) => id === letterId)
  return {
    ...effectOf(running, { letters: written, passages }),
    problems: own ? problemsIn(houseOf(running), own) : 0,
  }
}

/** Which messages would read differently with other words of a passage. */
export function effectOfPassage(
  running: RunningApplication,
  passage: Omit<Passage, 'version'>,
): LetterEffect {
  const { letters, passages } = running.application.settings.required()
  const version = passages.find(({ id }) => id === passage.id)?.version ?? 0
  const others = passages.filter(({ id }) => id !== passage.id)
  return effectOf(running, { letters, passages: [...others, { ...passage, version: version + 1 }] })
}
