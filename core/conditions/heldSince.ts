import type { Booking, BookingStatus } from '../model/booking.ts'
import type { Client } from '../model/client.ts'
import type { Condition } from '../model/condition.ts'
import type { Enquiry } from '../model/enquiry.ts'
import { evaluate, type ConditionFacts } from './evaluate.ts'

/*
 * Since when a condition has held, from the facts with their moments. Facts without a moment of their own, such as a
 * client's language, count as having always been so.
 */

function statusAsOf({ status, statusAt }: Booking, at: number): BookingStatus {
  const entered = Object.entries(statusAt) as [BookingStatus, number][]
  if ((statusAt[status] ?? -Infinity) <= at) return status
  const before = entered.filter(([, since]) => since <= at).sort(([, one], [, other]) => other - one)
  return before[0]?.[0] ?? status
}

/** The business's own status at a moment: of those entered by then the last, where nothing else has been since. */
function ownAsOf({ own, statusAt }: Booking, at: number): Booking['own'] {
  if (own.status !== null && (own.at[own.status] ?? -Infinity) <= at) return own
  const changedAt = Math.max(...Object.values(statusAt).filter((since) => since <= at))
  const [last] = Object.entries(own.at)
    .filter(([, since]) => since <= at && since >= changedAt)
    .sort(([, one], [, other]) => other - one)
  return { ...own, status: last?.[0] ?? null }
}

function stageAsOf({ stage, stageAt }: Enquiry, at: number): string {
  if ((stageAt[stage] ?? -Infinity) <= at) return stage
  const before = Object.entries(stageAt).filter(([, since]) => since <= at)
  return before.sort(([, one], [, other]) => other - one)[0]?.[0] ?? stage
}

function clientAsOf(client: Client, happenings: ConditionFacts['happenings'], at: number): Client {
  let { tags, takesPromotional } = client
  for (const { kind, name } of happenings.filter((one) => one.at > at).reverse()) {
    if (kind === 'tag added') tags = tags.filter((tag) => tag !== name)
    if (kind === 'tag removed') tags = [...tags, name]
    if (kind === 'opted out') takesPromotional = true
  }
  return { ...client, tags, takesPromotional }
}

/** The facts as they were at a moment. */
function asOf(facts: ConditionFacts, at: number): ConditionFacts {
  const { booking, enquiry, invoice, client, happenings, bookings } = facts
  const earlier = (one: Booking): Booking => ({ ...one, status: statusAsOf(one, at), own: ownAsOf(one, at) })
  return {
    ...facts,
    now: at,
    client: clientAsOf(client, happenings, at),
    booking: booking && earlier(booking),
    bookings: bookings.filter(({ madeAt }) => madeAt <= at).map(earlier),
    enquiry: enquiry && { ...enquiry, stage: stageAsOf(enquiry, at) },
    invoice: invoice && {
      ...invoice,
      paidAt: invoice.paidAt !== null && invoice.paidAt > at ? null : invoice.paidAt,
    },
    happenings: happenings.filter((one) => one.at <= at),
  }
}

function momentsOf({ now, runStartedAt, booking, bookings, enquiry, invoice, happenings }: ConditionFacts) {
  const all = [
    runStartedAt,
    ...happenings.map(({ at }) => at),
    ...[...(booking ? [booking] : []), ...bookings].flatMap((one) => [
      one.madeAt,
      ...Object.values(one.statusAt),
      ...Object.values(one.own.at),
    ]),
    ...Object.values(enquiry?.stageAt ?? {}),
    invoice?.paidAt ?? runStartedAt,
  ]
  return [...new Set(all.filter((at) => at >= runStartedAt && at <= now))].sort((one, other) => other - one)
}

/**
 * Since when a condition has held without a break, at the earliest since the run started; null: it does not hold.
 * Facts change only at moments of their own, so only those are looked at.
 */
export function heldSince(condition: Condition, facts: ConditionFacts): number | null {
  if (!evaluate(condition, facts).holds) return null
  let since = facts.now
  for (const at of momentsOf(facts)) {
    if (!evaluate(condition, asOf(facts, at)).holds) break
    since = at
  }
  return since
}
