import { wish, type Wish } from '#core/model/enquiry.ts'
import type { GivenAnswer } from '#core/model/booking.ts'

/** What is wished for as a form holds it: texts where something is typed. */
export interface WishDraft {
  readonly serviceId: string | null
  readonly what: string
  readonly wishedOn: string | null
  readonly partySize: number | string
  /** In euros. */
  readonly budget: number | string
  readonly source: string
  readonly answers: readonly GivenAnswer[]
}

export type Errors = Readonly<Record<string, string>>

export const draftOfWish = (of: Wish): WishDraft => ({
  serviceId: of.serviceId,
  what: of.what,
  wishedOn: of.wishedOn,
  partySize: of.partySize ?? '',
  budget: of.budgetCents === null ? '' : of.budgetCents / 100,
  source: of.source,
  answers: of.answers,
})

/** A number as it was typed; null: nothing was. What is no number stays what it is, and is refused. */
const typedNumber = (typed: number | string) => (typed === '' ? null : Number(typed))

/** What a draft wishes for, or what is still wrong with it, by field. */
export function readWish(draft: WishDraft): { readonly wish: Wish } | { readonly errors: Errors } {
  const { budget, partySize, ...plain } = draft
  const euros = typedNumber(budget)
  const parsed = wish.safeParse({
    ...plain,
    partySize: typedNumber(partySize),
    budgetCents: euros === null ? null : Math.round(euros * 100),
    answers: draft.answers.filter(({ answer }) => answer.trim() !== ''),
  })
  if (parsed.success) return { wish: parsed.data }
  const errors: Record<string, string> = {}
  for (const { path, message } of parsed.error.issues) errors[String(path[0])] ??= message
  return { errors }
}
