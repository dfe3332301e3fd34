import { z } from 'zod'
import { signedToken, idOfToken } from '../mail/signedLinks.ts'
import type { Keys } from '../mail/keys.ts'
import { minuteMs } from '#core/time/calendar.ts'

/** Nobody fills a form in faster than this; in milliseconds of real time. */
const leastMs = 2000
/** A form that has been open for longer may show what is no longer so. */
const mostMs = 12 * 60 * minuteMs

type FormKeys = Pick<Keys, 'links' | 'formerLinks'>

/** When a form was given out, so that nobody can say otherwise. */
export const formStamp = (keys: FormKeys) => signedToken('form', String(Date.now()), keys)

/** Whether a form came back too soon or too late for a person. */
export function paceOf(stamp: string, keys: FormKeys): 'fine' | 'too fast' | 'too old' {
  const given = Number(idOfToken('form', stamp, keys) ?? Number.NaN)
  const age = Date.now() - given
  if (Number.isNaN(age) || age > mostMs) return 'too old'
  return age < leastMs ? 'too fast' : 'fine'
}

const text = z.string().max(4000).catch('')

/** What browsers send of a form: texts by name. Line ends are what a text area makes of them. */
export const formBody = z
  .record(z.string(), text)
  .catch({})
  .transform((fields) =>
    Object.fromEntries(
      Object.entries(fields).map(([name, value]) => [name, value.replaceAll('\r\n', '\n').trim()]),
    ),
  )
