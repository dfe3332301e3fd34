import { z } from 'zod'
import { language } from '#core/model/values.ts'
import { isSameSecret } from '../../mail/signedLinks.ts'
import { signatureOf } from '../../mail/webCall.ts'

/** What the page for paying is asked to take: by a link that nobody without the key can make. */
export const askedPayment = z
  .object({
    /** Whose it is where it came from. */
    about: z.string().max(80),
    /** Tells it from any other: asked for again, it is the same. */
    reference: z.string().min(1).max(120),
    cents: z.coerce.number().int().min(1),
    /** To whom, and for what. */
    words: z.string().max(300),
    language,
    /** Where the client goes on afterwards, and who is told. */
    back: z.url(),
    tell: z.url(),
  })
  .strict()
export type AskedPayment = z.infer<typeof askedPayment>

/** What came of it, as it is told. */
export const toldPayment = z
  .object({
    about: z.string().max(80),
    reference: z.string().min(1).max(120),
    cents: z.number().int().min(1).max(100_000_000),
    outcome: z.enum(['paid', 'refused', 'pending']),
  })
  .strict()
export type ToldPayment = z.infer<typeof toldPayment>

const named = (asked: AskedPayment) =>
  new URLSearchParams(Object.entries(asked).map(([name, value]) => [name, String(value)]))

/** The address at which an amount is paid. */
export function linkToPay(base: string, asked: AskedPayment, key: string): string {
  const query = named(asked).toString()
  return `${base}/?${query}&signature=${signatureOf(query, key)}`
}

/** Whether a text was signed by who has the key. */
export const isSigned = (text: string, signature: string, key: string) =>
  isSameSecret(signature, signatureOf(text, key))

/** What a link asks for; null: it was not made by who has the key, or was changed. */
export function readAsked(query: Readonly<Record<string, unknown>>, key: string): AskedPayment | null {
  const { signature, ...rest } = query
  const parsed = askedPayment.safeParse(rest)
  if (!parsed.success || typeof signature !== 'string') return null
  return isSigned(named(parsed.data).toString(), signature, key) ? parsed.data : null
}
