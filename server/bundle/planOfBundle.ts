import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { BusinessBundle } from '#core/model/businessBundle.ts'
import { planAllAnew } from '../engine/commands/sequenceCommands.ts'
import { openApplication, type RunningApplication } from '../engine/runningApplication.ts'
import { readBundleInto } from './readBundle.ts'

/** A message, task or act that is to come, or waits for something. */
export interface ToCome {
  readonly client: string
  readonly sequence: string
  readonly step: string
  readonly occurrence: number
  readonly anchor: string
  readonly recipient: string
  readonly state: string
  /** ISO 8601, UTC; null: it has no time yet. */
  readonly due: string | null
  readonly reason: string | null
}

const noProcess = {
  url: () => 'smtp://127.0.0.1:9',
  port: () => 9,
  mailboxPort: () => 9,
  stop: () => Promise.resolve(),
}

/** What is to come of all clients, by its times. */
export function toCome({ application }: Pick<RunningApplication, 'application'>): readonly ToCome[] {
  return application.store.statements.all('sendsToCome').map((row) => ({
    client: String(row['clientName']),
    sequence: String(row['sequenceName']),
    step: String(row['stepId']),
    occurrence: Number(row['occurrence']),
    anchor: String(row['anchorValue']),
    recipient: String(row['recipientId']),
    state: String(row['state']),
    due: row['dueAt'] === null ? null : new Date(Number(row['dueAt'])).toISOString(),
    reason: typeof row['reason'] === 'string' ? row['reason'] : null,
  }))
}

/** The plan of a whole business, made anew from its facts and rules; nothing is sent. Throws a BusinessBundleFault. */
export async function planOfBundle(bundle: BusinessBundle): Promise<readonly ToCome[]> {
  const folder = mkdtempSync(join(tmpdir(), 'vorfreude-plan-'))
  try {
    readBundleInto(bundle, folder)
    const running = await openApplication({
      folder,
      // A business with the clock of the demo is planned by that.
      isDemo: bundle.tables['meta']?.some(({ key }) => key === 'demo clock') ?? false,
      smtpUrl: null,
      startPostOffice: () => Promise.resolve(noProcess),
      startPayments: () => Promise.resolve(noProcess),
      onFault: (fault) => {
        throw fault
      },
    })
    planAllAnew(running.application)
    const plan = toCome(running)
    await running.end()
    return plan
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
