import { mkdirSync, readdirSync, rmSync, statfsSync, statSync } from 'node:fs'
import { basename, join } from 'node:path'
import { backupsToLetGo } from '#core/insight/backupAges.ts'
import { dayMs, hourMs, minuteMs } from '#core/time/calendar.ts'
import type { BackupNews, BackupTask } from '../../db/backupWorker.ts'
import { thrownIn, type Thrown } from '../../db/thrown.ts'
import { sealedEnding } from '../../db/sealedFile.ts'
import { ownThread } from '../../ownThread.ts'
import type { Changes } from '../changes.ts'

/*
 * A backup a day, taken in a thread of its own while everything goes on, read back, and kept by age. All by the machine's
 * clock: it is about files.
 */

export interface TakenBackup {
  readonly name: string
  readonly at: number
  readonly bytes: number
}

export interface BackupState {
  readonly folder: string
  /** Whether only who knows some words can read what is taken now. */
  readonly isSealed: boolean
  /** The newest first. */
  readonly backups: readonly TakenBackup[]
  readonly isUnderWay: boolean
  /** Why the last one could not be taken; null: it could. */
  readonly trouble: string | null
}

export interface BackupKeeping {
  begin(): void
  /** Takes one now; ends when it is there, or why not is known. */
  take(): Promise<BackupState>
  state(): BackupState
  /** Why the last one could not be taken, without looking at the files; null: it could. */
  trouble(): string | null
  end(): Promise<void>
}

const everyMs = dayMs
/** After one that failed. */
const againMs = hourMs
const lookEveryMs = 10 * minuteMs

const pattern = /^vorfreude-(\d{4})-(\d\d)-(\d\d)T(\d\d)(\d\d)(\d\d)Z\.db(\.sealed)?$/

/** The name of a backup that is taken at a moment, to the second. */
export const backupName = (at: number, isSealed = false) =>
  `vorfreude-${new Date(at).toISOString().slice(0, 19).replaceAll(':', '')}Z.db${isSealed ? sealedEnding : ''}`

function momentOf(name: string): number | null {
  const [, ...parts] = pattern.exec(name) ?? []
  const [year = 0, month = 0, day = 0, hour = 0, minute = 0, second = 0] = parts.slice(0, 6).map(Number)
  return parts.length === 0 ? null : Date.UTC(year, month - 1, day, hour, minute, second)
}

/** The backups in a folder, the newest first; a folder that is not there has none. */
export function backupsIn(folder: string): readonly TakenBackup[] {
  try {
    return readdirSync(folder)
      .flatMap((name): TakenBackup[] => {
        const at = momentOf(name)
        return at === null ? [] : [{ name, at, bytes: statSync(join(folder, name)).size }]
      })
      .sort((one, other) => other.at - one.at)
  } catch {
    return []
  }
}

const goesOn = 'Everything else goes on; it is tried again every hour.'

function sentenceOf(folder: string, { code, message }: Thrown): string {
  if (/ENOSPC|SQLITE_FULL|no room/.test(`${code} ${message}`)) {
    return `No backup was taken: there is no room left for it in ${folder}. Make room there. ${goesOn}`
  }
  if (/EACCES|EROFS|EPERM|ENOTDIR|EEXIST|ENOENT|SQLITE_(READONLY|CANTOPEN)/.test(code)) {
    return `No backup was taken: the folder ${folder} is gone or cannot be written to. ${goesOn}`
  }
  return `No backup was taken: ${message}. ${goesOn}`
}

/** Left by one that was ended in the middle. */
function forgetUnfinished(folder: string) {
  for (const name of readdirSync(folder)) {
    if (name.endsWith('.unfinished') && momentOf(name.slice(0, -'.unfinished'.length)) !== null) {
      rmSync(join(folder, name))
    }
  }
}

/** What is needed at most: a copy has no more pages than its original. */
function requireRoom(file: string, folder: string) {
  const { bavail, bsize } = statfsSync(folder)
  if (bavail * bsize < statSync(file).size) throw Object.assign(new Error('no room'), { code: 'ENOSPC' })
}

function copyInThread(task: BackupTask): Promise<BackupNews> {
  return new Promise((resolve) => {
    const worker = ownThread('server/db/backupWorker', task)
    const failed = (fault: Error) => resolve({ kind: 'failed', code: '', message: fault.message })
    worker.once('message', resolve)
    worker.once('error', failed)
    worker.once('exit', () => failed(new Error('it was ended in the middle')))
  })
}

export interface BackupKeepingOptions {
  readonly file: string
  readonly folder: string
  readonly changes: Changes
  /** Now on the machine's clock. */
  readonly now?: () => number
  /** Only who knows these can read the backups; null: they are not sealed. */
  readonly words?: string | null
}

export function createBackupKeeping(options: BackupKeepingOptions): BackupKeeping {
  const { file, folder, changes, now = Date.now, words = null } = options
  let trouble: string | null = null
  let failedAt = -Infinity
  let underWay: Promise<void> | null = null
  let timer: NodeJS.Timeout | null = null
  const isSealed = words !== null
  const state = () => {
    const backups = backupsIn(folder)
    return { folder, isSealed, backups, isUnderWay: underWay !== null, trouble }
  }

  const fails = (thrown: Thrown) => {
    failedAt = now()
    trouble = sentenceOf(folder, thrown)
  }
  const copy = async (at: number) => {
    try {
      mkdirSync(folder, { recursive: true, mode: 0o700 })
      forgetUnfinished(folder)
      requireRoom(file, folder)
      const news = await copyInThread({ file, to: join(folder, backupName(at, isSealed)), words })
      if (news.kind === 'failed') {
        fails(news)
        return
      }
      trouble = null
      failedAt = -Infinity
      for (const { name } of backupsToLetGo(backupsIn(folder), at)) rmSync(join(folder, basename(name)))
    } catch (fault) {
      fails(thrownIn(fault))
    }
  }
  const take = async () => {
    underWay ??= copy(now()).finally(() => {
      underWay = null
      changes.publish(['backups'])
    })
    changes.publish(['backups'])
    await underWay
    return state()
  }
  const look = () => {
    const at = now()
    const last = backupsIn(folder)[0]?.at ?? -Infinity
    if (at - last >= everyMs && at - failedAt >= againMs) void take()
  }
  return {
    begin() {
      look()
      timer = setInterval(look, lookEveryMs).unref()
    },
    take,
    state,
    trouble: () => trouble,
    async end() {
      if (timer) clearInterval(timer)
      await underWay
    },
  }
}
