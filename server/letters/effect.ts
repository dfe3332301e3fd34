import type { LetterEffect } from '#core/api/letterEndpoints.ts'
import { sendFactsOf } from '#core/engine/atSending/mergeFacts.ts'
import { readsDifferently } from '#core/engine/consequences/readsDifferently.ts'
import type { Letter, LetterContent } from '#core/model/letter.ts'
import { isClientsOwn } from '#core/sequences/recipients.ts'
import { focusOnSend } from '../db/livingStore.ts'
import { readSend } from '../db/sendStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { houseOf, problemsIn } from './lines.ts'

/** So many of the next messages are looked at one by one; the others are counted. */
const mostLooked = 60

/** Which messages would read differently with another text of a letter. */
export function effectOfText(
  running: RunningApplication,
  present: Letter,
  content: LetterContent,
): LetterEffect {
  const { application } = running
  const { statements } = application.store
  const letterId = present.id
  const written: Letter = { ...present, ...content }
  const counts = new Map(
    statements
      .all('countPlannedWithLetter', { letterId })
      .map(({ state, count }) => [state, Number(count)] as const),
  )
  const lines: LetterEffect['lines'] = []
  let looked = 0
  for (const { id } of statements.all('plannedWithLetter', { letterId, limit: mostLooked })) {
    const send = readSend(statements, String(id))
    const slice = send && application.readableSliceOf(send.clientId, focusOnSend(send))
    if (!send || !slice) continue
    looked += 1
    if (!readsDifferently(send, slice, written, application.clock.now())) continue
    lines.push({
      sendId: send.id,
      clientId: send.clientId,
      clientName: slice.facts.client.name,
      recipientName: sendFactsOf(send, slice)?.recipient?.name ?? '',
      isToClient: isClientsOwn(send.recipientId),
      state: send.state,
      at: send.dueAt ?? send.wantedAt,
    })
  }
  return {
    planned: [...counts.values()].reduce((sum, count) => sum + count, 0),
    waiting: counts.get('waiting') ?? 0,
    lines,
    looked,
    same: looked - lines.length,
    problems: problemsIn(houseOf(running), written),
  }
}
