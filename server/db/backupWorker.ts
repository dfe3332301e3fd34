import { rmSync, statSync } from 'node:fs'
import { parentPort, workerData } from 'node:worker_threads'
import { copyWhileAtWork } from './backup.ts'
import { checkSealed, sealFile } from './sealedFile.ts'
import { thrownIn, type Thrown } from './thrown.ts'

/** What the thread is given. */
export interface BackupTask {
  readonly file: string
  readonly to: string
  /** Only who knows these can read it; null: it is not sealed. */
  readonly words: string | null
}

/** What it tells: how large the copy is, or what was thrown at it. */
export type BackupNews =
  { readonly kind: 'done'; readonly bytes: number } | ({ readonly kind: 'failed' } & Thrown)

/** What is sealed is never in the folder of the backups as it is: it is copied beside the database first. */
function sealed(file: string, to: string, words: string): number {
  const plain = `${file}.to-be-sealed`
  rmSync(plain, { force: true })
  try {
    copyWhileAtWork(file, plain)
    sealFile(plain, to, words)
    checkSealed(to, words)
    return statSync(to).size
  } finally {
    rmSync(plain, { force: true })
  }
}

function work({ file, to, words }: BackupTask): BackupNews {
  try {
    return { kind: 'done', bytes: words === null ? copyWhileAtWork(file, to) : sealed(file, to, words) }
  } catch (fault) {
    return { kind: 'failed', ...thrownIn(fault) }
  }
}

parentPort?.postMessage(work(workerData as BackupTask))
