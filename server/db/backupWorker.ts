import { parentPort, workerData } from 'node:worker_threads'
import { copyWhileAtWork } from './backup.ts'
import { thrownIn, type Thrown } from './thrown.ts'

/** What the thread is given. */
export interface BackupTask {
  readonly file: string
  readonly to: string
}

/** What it tells: how large the copy is, or what was thrown at it. */
export type BackupNews =
  { readonly kind: 'done'; readonly bytes: number } | ({ readonly kind: 'failed' } & Thrown)

function work({ file, to }: BackupTask): BackupNews {
  try {
    return { kind: 'done', bytes: copyWhileAtWork(file, to) }
  } catch (fault) {
    return { kind: 'failed', ...thrownIn(fault) }
  }
}

parentPort?.postMessage(work(workerData as BackupTask))
