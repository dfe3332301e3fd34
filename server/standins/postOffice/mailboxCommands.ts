import type { ImapResponse } from 'imapflow/lib/handler/types.js'
import type { StoredMail } from './file.ts'

/*
 * What a mail program asks of a mailbox (RFC 3501), as far as one that only reads does: numbers, lists and parts of mails.
 */

/** A mail with its number in the mailbox. */
export interface Numbered {
  readonly uid: number
  /** Its place, from 1 on. */
  readonly place: number
  /** Null: it is gone. */
  readonly mail: () => StoredMail | null
}

/** A part of a command as the parser gives it. */
export interface Token {
  readonly type?: string
  readonly value?: unknown
  readonly section?: readonly Token[]
  readonly partial?: readonly number[]
}
export type Tokens = readonly (Token | Tokens)[]

export const tokensOf = ({ attributes }: ImapResponse): Tokens => (attributes ?? []) as unknown as Tokens

const isList = (one: Token | Tokens): one is Tokens => Array.isArray(one)

/** The text of a token; empty: it is a list, or nothing. */
export const textOf = (one: Token | Tokens | undefined): string =>
  one === undefined || isList(one) || typeof one.value !== 'string' ? '' : one.value

/** Which numbers a set names; `*` is the highest there is (RFC 3501 9). */
export function inSet(set: string, highest: number): (number: number) => boolean {
  const bound = (text: string) => (text === '*' ? highest : Number(text))
  const ranges = set.split(',').map((part) => {
    const [from = '', to = from] = part.split(':')
    const ends = [bound(from), bound(to)]
    return { least: Math.min(...ends), most: Math.max(...ends) }
  })
  return (number) => ranges.some(({ least, most }) => number >= least && number <= most)
}

/** Those of a mailbox that a set names, by their numbers or by their places. */
export function named(mails: readonly Numbered[], set: string, byUid: boolean): readonly Numbered[] {
  const numberOf = ({ uid, place }: Numbered) => (byUid ? uid : place)
  const last = mails.at(-1)
  const has = inSet(set, last ? numberOf(last) : 0)
  return mails.filter((one) => has(numberOf(one)))
}

/** The mails that a search is after: all, or those in a set of numbers. */
export function searched(mails: readonly Numbered[], tokens: Tokens): readonly Numbered[] {
  const words = tokens.map(textOf)
  const at = words.findIndex((word) => word.toUpperCase() === 'UID')
  return at < 0 ? mails : named(mails, words[at + 1] ?? '', true)
}

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const two = (number: number) => String(number).padStart(2, '0')

/** RFC 3501 9, `date-time`. */
function dateTime(at: number): string {
  const date = new Date(at)
  const day = `${two(date.getUTCDate())}-${months[date.getUTCMonth()] ?? ''}-${date.getUTCFullYear()}`
  const time = [date.getUTCHours(), date.getUTCMinutes(), date.getUTCSeconds()].map(two).join(':')
  return `"${day} ${time} +0000"`
}

const literal = (name: string, bytes: Buffer): Buffer =>
  Buffer.concat([Buffer.from(`${name} {${bytes.length}}\r\n`), bytes])

function bodyPart({ section = [], partial }: Token, { source }: StoredMail): Buffer {
  const [which] = section
  const name = textOf(which).toUpperCase()
  const end = source.indexOf('\r\n\r\n')
  const whole = name === 'HEADER' ? source.subarray(0, end < 0 ? source.length : end + 4) : source
  const start = partial?.[0] ?? 0
  const bytes = partial ? whole.subarray(start, start + (partial[1] ?? whole.length)) : whole
  return literal(`BODY[${name}]${partial ? `<${start}>` : ''}`, bytes)
}

function item(one: Token, uid: number, mail: StoredMail): Buffer | null {
  switch (textOf(one).toUpperCase()) {
    case 'UID':
      return Buffer.from(`UID ${uid}`)
    case 'FLAGS':
      return Buffer.from('FLAGS ()')
    case 'INTERNALDATE':
      return Buffer.from(`INTERNALDATE ${dateTime(mail.receivedAt)}`)
    case 'RFC822.SIZE':
      return Buffer.from(`RFC822.SIZE ${mail.source.length}`)
    case 'BODY.PEEK':
    case 'BODY':
      return bodyPart(one, mail)
    default:
      return null
  }
}

/** What is told of a mail that was asked for. */
export function fetched({ uid, place, mail }: Numbered, wanted: Token | Tokens | undefined): Buffer {
  const present = mail()
  if (!present) return Buffer.alloc(0)
  const items = wanted === undefined ? [] : isList(wanted) ? wanted : [wanted]
  const parts = items.flatMap((one) => (isList(one) ? [] : (item(one, uid, present) ?? [])))
  const spaced = parts.flatMap((part, index) => (index === 0 ? [part] : [Buffer.from(' '), part]))
  return Buffer.concat([Buffer.from(`* ${place} FETCH (`), ...spaced, Buffer.from(')\r\n')])
}
