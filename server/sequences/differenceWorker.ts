import { parentPort, workerData } from 'node:worker_threads'
import Sqlite from 'better-sqlite3'
import { hypothetical } from '#core/engine/consequences/consequences.ts'
import { announcedOf, type Announced } from '#core/engine/consequences/announced.ts'
import type { RolloutLine } from '#core/api/sequenceEndpoints.ts'
import { prepareStatements } from '../db/statements.ts'
import { consequenceLine } from '../engine/considering/consequenceLines.ts'
import { createSettingsSource, type SendingWays } from '../engine/settings.ts'
import { clientRollouts, rolloutPlan, type RolloutAsk } from '../engine/rollouts/rollouts.ts'

/** What the worker is given. */
export interface DifferenceTask {
  readonly file: string
  readonly ask: RolloutAsk
  readonly now: number
  readonly ways: SendingWays
}

/** What it tells: how far it is, why it cannot be done, or what came out. */
export type DifferenceNews =
  | { readonly kind: 'progress'; readonly done: number; readonly total: number }
  | { readonly kind: 'refused'; readonly sentence: string }
  | {
      readonly kind: 'result'
      readonly lines: readonly RolloutLine[]
      readonly announced: readonly Announced[]
      readonly clients: number
      readonly lookedAt: number
    }

const tellEvery = 25

function work({ file, ask, now, ways }: DifferenceTask, tell: (news: DifferenceNews) => void) {
  const database = new Sqlite(file, { readonly: true })
  const statements = prepareStatements(database)
  const settings = createSettingsSource(statements, () => ways).required()
  const context = hypothetical(now)
  const plan = rolloutPlan(statements, settings, ask, context)
  if (!plan.ok) {
    tell({ kind: 'refused', sentence: plan.problem.sentence })
    return
  }
  const total = plan.value.clientIds.length
  const lines: RolloutLine[] = []
  const announced: Announced[] = []
  let count = 0
  let clients = 0
  tell({ kind: 'progress', done: 0, total })
  for (const one of clientRollouts(statements, settings, plan.value, ask, context)) {
    count += 1
    if (count % tellEvery === 0) tell({ kind: 'progress', done: count, total })
    if (one === null || one.changes.length === 0) continue
    clients += 1
    const { clientId, clientName } = one
    for (const change of one.changes) {
      lines.push({ ...consequenceLine(change, one.changed, now), clientId, clientName })
      announced.push(announcedOf(change, plan.value.after.letters))
    }
  }
  database.close()
  tell({ kind: 'result', lines, announced, clients, lookedAt: total })
}

work(workerData as DifferenceTask, (news) => parentPort?.postMessage(news))
