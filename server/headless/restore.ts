import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { parseArgs } from 'node:util'
import { asBusinessBundle, readBundleInto } from '../bundle/readBundle.ts'
import { readBack } from '../db/backup.ts'
import { sealedEnding, unsealFile } from '../db/sealedFile.ts'
import { openStore } from '../db/database.ts'
import { readPeople } from '../db/settingsStore.ts'
import { thrownIn } from '../db/thrown.ts'
import { makeWayIn } from '../session/waysIn.ts'

/** Why a backup is not restored, with a sentence for whoever asked. */
export class RestoreError extends Error {}

interface Restored {
  readonly clients: number
  readonly bookings: number
  /** Messages that were to come when it was taken. */
  readonly ahead: number
  readonly hasKeys: boolean
}

function lookAt(backup: string): Omit<Restored, 'hasKeys'> {
  try {
    return readBack(backup, (database) => {
      const count = (sql: string) => database.prepare(sql).pluck().get() as number
      return {
        clients: count('SELECT count(*) FROM clients'),
        bookings: count('SELECT count(*) FROM bookings'),
        ahead: count(
          "SELECT count(*) FROM sends WHERE state IN ('expected', 'ready', 'approved', 'waiting')",
        ),
      }
    })
  } catch (fault) {
    throw new RestoreError(
      `${backup} is no whole backup of Vorfreude (${thrownIn(fault).message}). Nothing was written. Take another one.`,
    )
  }
}

/** Opens a sealed backup into a folder of its own, looks at it there, and lets go of it. Throws a RestoreError. */
function withUnsealed<Value>(backup: string, folder: string, take: (plain: string) => Value): Value {
  if (!backup.endsWith(sealedEnding)) return take(backup)
  const words = process.env['VORFREUDE_BACKUP_WORDS']?.trim() ?? ''
  if (words === '') {
    throw new RestoreError(
      `${backup} is sealed. Set VORFREUDE_BACKUP_WORDS to the words it was sealed with. Nothing was written.`,
    )
  }
  // Beside where it goes to: there is room for it on that disk.
  const beside = dirname(folder)
  const aside = mkdtempSync(join(existsSync(beside) ? beside : tmpdir(), '.vorfreude-restore-'))
  try {
    const plain = join(aside, 'vorfreude.db')
    try {
      unsealFile(backup, plain, words)
    } catch (fault) {
      throw new RestoreError(
        `${backup} could not be opened: ${thrownIn(fault).message}. Nothing was written.`,
      )
    }
    return take(plain)
  } finally {
    rmSync(aside, { recursive: true, force: true })
  }
}

/** Who sets a password first in a business that was read from a file: it has none. */
function ownerLink(folder: string): string | null {
  const store = openStore(folder)
  try {
    const owner = readPeople(store.statements).find(({ role, isActive }) => role === 'owner' && isActive)
    if (!owner) return null
    const { token } = store.transaction(() =>
      makeWayIn(store.statements, { personId: owner.id, email: owner.email, purpose: 'invitation' }),
    )
    return `${owner.name} comes in once by the address Vorfreude prints at its start with /come-in#${token} behind it; good for 7 days.`
  } finally {
    store.close()
  }
}

function jsonOf(file: string): unknown {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch (fault) {
    throw fault instanceof SyntaxError
      ? new RestoreError(`${file} is no JSON, or only a part of it. Nothing was written.`)
      : fault
  }
}

/** Reads a whole business from a file into a new data folder. Throws a BusinessBundleFault. */
function readBusiness(file: string, folder: string, say: (sentence: string) => void) {
  const bundle = asBusinessBundle(jsonOf(file))
  readBundleInto(bundle, folder)
  const count = (table: string) => bundle.tables[table]?.length ?? 0
  say(
    `Read ${basename(file)} of ${bundle.takenAt}: ${count('clients')} clients, ${count('bookings')} bookings.`,
  )
  say('Passwords and keys are in no such file: the password of the mail account has to be typed again.')
  const link = ownerLink(folder)
  if (link !== null) say(link)
}

/**
 * Puts a backup into a new data folder, with the key file that belongs to it where there is one. It starts held back there:
 * what fell due since is listed when sending is switched on, and nothing goes by itself. Throws a RestoreError.
 */
export function restore(backup: string, folder: string, keys: string | null): Restored {
  if (existsSync(folder) && readdirSync(folder).length > 0) throw notEmpty(folder)
  const keyFile = keys ?? join(dirname(dirname(backup)), 'keys.json')
  return withUnsealed(backup, folder, (plain) => putInto(plain, folder, keyFile, keys))
}

const notEmpty = (folder: string) =>
  new RestoreError(`${folder} is not empty. Restore into a new folder: what is there stays as it is.`)

function putInto(backup: string, folder: string, keyFile: string, keys: string | null): Restored {
  const found = lookAt(backup)
  const hasKeys = existsSync(keyFile)
  if (keys !== null && !hasKeys)
    throw new RestoreError(`There is no key file at ${keys}. Nothing was written.`)
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  copyFileSync(backup, join(folder, 'vorfreude.db'))
  if (hasKeys) copyFileSync(keyFile, join(folder, 'keys.json'))
  return { ...found, hasKeys }
}

const heldBack =
  'It starts held back: what fell due since the backup is listed when you switch sending on, and goes only if you say so. Set-up → Safety compares it with the sent mail of the account before.'

const usage = './run restore BACKUP --data NEW_FOLDER [--keys KEY_FILE]'

/** The restore as a command. Returns its exit code. */
export function restoreCommand(args: readonly string[], say: (sentence: string) => void): number {
  try {
    const options = { data: { type: 'string' }, keys: { type: 'string' } } as const
    const { values, positionals } = parseArgs({ args: [...args], options, allowPositionals: true })
    const [backup, more] = positionals
    if (backup === undefined || more !== undefined || values.data === undefined) {
      say(`That cannot be meant. It looks like ${usage}`)
      return 2
    }
    const folder = resolve(values.data)
    const keys = values.keys === undefined ? null : resolve(values.keys)
    if (backup.endsWith('.json')) {
      readBusiness(resolve(backup), folder, say)
      say(heldBack)
      say(`Start it with ./run start --data ${values.data}`)
      return 0
    }
    const { clients, bookings, ahead, hasKeys } = restore(resolve(backup), folder, keys)
    say(
      `Restored ${basename(backup)}: ${clients} clients, ${bookings} bookings, ${ahead} messages that were to come.`,
    )
    if (!hasKeys) {
      say(
        'There is no key file beside it: links in messages that went lead nowhere, and the password of the mail account has to be typed again. Everything else is there. Give the file with --keys if you have it.',
      )
    }
    say(heldBack)
    say(`Start it with ./run start --data ${values.data}`)
    return 0
  } catch (fault) {
    say(thrownIn(fault).message)
    return 1
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  process.umask(0o077)
  process.exitCode = restoreCommand(process.argv.slice(2), (sentence) =>
    process.stdout.write(`${sentence}\n`),
  )
}
