import { parentPort, workerData } from 'node:worker_threads'
import { copyWhileAtWork } from './backup.ts'

/** What the thread is given. */
export interface BackupTask {
  readonly file: string
  readonly to: string
}

/** What it tells: how large the copy is, or what was thrown at it. */
export type BackupNews =
  | { readonly kind: 'done'; readonly bytes: number }
  | { readonly kind: 'failed'; readonly code: string; readonly message: string }

function work({ file, to }: BackupTask): BackupNews {
  try {
    return { kind: 'done', bytes: copyWhileAtWork(file, to) }
  } catch (fault) {
    const code = fault instanceof Error && 'code' in fault ? String(fault.code) : ''
    return { kind: 'failed', code, message: fault instanceof Error ? fault.message : String(fault) }
  }
}

parentPort?.postMessage(work(workerData as BackupTask))
