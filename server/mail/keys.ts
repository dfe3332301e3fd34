import { createHash, hkdfSync, randomBytes } from 'node:crypto'
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import type { Statements } from '../db/statements.ts'

/*
 * What links and calls are signed with. It lies beside the database and not in it: who gets hold of a backup makes no
 * links. Each use has a key of its own, derived from one (RFC 5869).
 */

export interface Keys {
  readonly links: string
  /** What links were signed with before they had a key of their own; those in messages that went still lead somewhere. */
  readonly formerLinks: string | null
  readonly webCalls: string
  /** What passwords of mail accounts are sealed with. */
  readonly mailAccounts: string
  /** What the secrets of second factors are sealed with. */
  readonly secondFactors: string
  /** What the page for paying is asked and tells. */
  readonly payments: string
  /** The database knows another key: the links of messages that went lead nowhere. */
  readonly areOthers: boolean
}

const kept = z
  .object({ key: z.string().regex(/^[0-9a-f]{64}$/), formerLinks: z.string().nullable() })
  .strict()
type Kept = z.infer<typeof kept>

const former = 'web call secret'
const known = 'key'

const derived = (key: string, use: string) =>
  Buffer.from(hkdfSync('sha256', Buffer.from(key, 'hex'), '', `vorfreude ${use}`, 32)).toString('hex')
const fingerprint = (key: string) => createHash('sha256').update(`vorfreude ${key}`).digest('hex')

/** The key file cannot be used, with a sentence for the person who starts the program. */
export class KeyFileError extends Error {}

function readKept(file: string): Kept {
  try {
    return kept.parse(JSON.parse(readFileSync(file, 'utf8')))
  } catch {
    throw new KeyFileError(
      `The key file ${file} cannot be read. Put the right one back; without it the links of messages that went lead nowhere.`,
    )
  }
}

/** The keys of a data folder, made where there are none. Throws a KeyFileError. */
export function openKeys(folder: string, statements: Statements): Keys {
  const file = join(folder, 'keys.json')
  const inDatabase = statements.one('readMeta', { key: former })?.['value']
  const isNew = !existsSync(file)
  const own: Kept = isNew
    ? {
        key: randomBytes(32).toString('hex'),
        formerLinks: typeof inDatabase === 'string' ? inDatabase : null,
      }
    : readKept(file)
  if (isNew) {
    writeFileSync(`${file}.unfinished`, JSON.stringify(own), { mode: 0o600, flush: true })
    renameSync(`${file}.unfinished`, file)
  }
  const before = statements.one('readMeta', { key: known })?.['value']
  const mark = fingerprint(own.key)
  if (before !== mark) statements.run('writeMeta', { key: known, value: mark })
  if (inDatabase !== undefined) statements.run('forgetMeta', { key: former })
  return {
    links: derived(own.key, 'links'),
    formerLinks: own.formerLinks,
    webCalls: derived(own.key, 'web calls'),
    mailAccounts: derived(own.key, 'mail accounts'),
    secondFactors: derived(own.key, 'second factors'),
    payments: derived(own.key, 'payments'),
    areOthers: before !== undefined && before !== mark,
  }
}
