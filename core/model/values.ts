import { z } from 'zod'

/** Epoch milliseconds, UTC. */
export const instant = z.number().int().min(-8.64e15).max(8.64e15)

/** What letters are written in and clients read, by ISO 639-1. */
export const language = z.enum(['en', 'de'])
export type Language = z.infer<typeof language>

/** A calendar date without a time of day, ISO 8601 (`2026-05-14`). */
export const isoDate = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}$/, 'A date looks like 2026-05-14.')
  .refine((text) => {
    const parsed = new Date(`${text}T00:00:00Z`)
    return !Number.isNaN(parsed.getTime()) && parsed.toISOString().startsWith(text)
  }, 'There is no such day in the calendar.')

/** A time of day on the 24-hour clock (`18:00`). */
export const timeOfDay = z
  .string()
  .regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time looks like 18:00, on the 24-hour clock.')

/** A local date and time as a date field of a page gives it (`2026-05-16T05:20`). */
export const localDateTime = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}T([01]\d|2[0-3]):[0-5]\d$/, 'Give a date and a time, such as 2026-05-16, 05:20.')
  .refine((text) => isoDate.safeParse(text.slice(0, 10)).success, {
    message: 'There is no such day in the calendar.',
  })

/**
 * An e-mail address as the WHATWG HTML standard (4.10.5.1.5, "valid e-mail address") defines it,
 * with the total length bounded as RFC 5321 4.5.3.1.3 bounds a path (256 octets with its brackets).
 */
export const emailAddress = z
  .string()
  .max(254, 'An e-mail address has at most 254 characters.')
  .regex(
    /^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*$/,
    'This is not an e-mail address. It looks like name@place.example.',
  )

/** The domain of an e-mail address, as it is written; empty: there is none. */
export const domainOf = (address: string) => address.slice(address.lastIndexOf('@') + 1)

/** Whether two addresses lead to the same mailbox, as far as anybody else may know: upper case or not. */
export const isSameAddress = (one: string, other: string) => one.toLowerCase() === other.toLowerCase()

/** One line of text: line breaks and other control characters could break a mail header. */
export const oneLine = (longest: number) =>
  z
    .string()
    .trim()
    .max(longest, `At most ${longest} characters.`)
    .regex(/^[^\p{Cc}\u2028\u2029]*$/u, 'Line breaks and control characters are not possible here.')

/** Text of several lines: of control characters only line breaks. */
export const severalLines = (longest: number) =>
  z
    .string()
    .trim()
    .max(longest, `At most ${longest} characters.`)
    .regex(/^(?:[^\p{Cc}\u2028\u2029]|\n)*$/u, 'Control characters are not possible here.')

/** One line of text that must not be empty. */
export const requiredLine = (longest: number, sentence: string) => oneLine(longest).min(1, sentence)

/** Makes the rule of an id: a type prefix, an underscore and up to 60 letters, digits or hyphens. */
export const idOf = (prefix: string) =>
  z.string().regex(new RegExp(`^${prefix}_[A-Za-z0-9-]{1,60}$`), `An id here starts with ${prefix}_.`)
