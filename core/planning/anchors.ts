import type { Booking } from '../model/booking.ts'
import type { Anchor } from '../model/timing.ts'
import { epochDayOf, isoDateOf, type EpochDay } from '../time/calendar.ts'
import { longDate } from '../time/format.ts'
import { inWords, type RunFacts } from './runFacts.ts'

/** What an anchor stands for at present: an instant or a date, and since when. */
export type AnchorValue =
  | { readonly kind: 'instant'; readonly at: number; readonly since: number; readonly session: number }
  | { readonly kind: 'date'; readonly day: EpochDay; readonly since: number; readonly session: number }

/** The value as part of a send's key: epoch milliseconds, or an ISO date. */
export function anchorKey(value: AnchorValue): string {
  return value.kind === 'instant' ? String(value.at) : isoDateOf(value.day)
}

const moment = (at: number | null | undefined, since = at): readonly AnchorValue[] =>
  at == null ? [] : [{ kind: 'instant', at, since: since ?? at, session: 0 }]

const date = (on: string | null | undefined, since: number | null | undefined): readonly AnchorValue[] =>
  on == null ? [] : [{ kind: 'date', day: epochDayOf(on), since: since ?? 0, session: 0 }]

function sessionValues(
  booking: Booking | null,
  point: 'startAt' | 'endAt',
  which: 'each' | 'first' | 'last' | undefined,
): readonly AnchorValue[] {
  if (!booking) return []
  const all = booking.sessions.length === 0 ? [booking] : booking.sessions
  const values = all.map((one, session): AnchorValue => ({
    kind: 'instant',
    at: one[point],
    since: booking.timesSetAt,
    session,
  }))
  const usual = point === 'startAt' ? 'first' : 'last'
  switch (which ?? usual) {
    case 'each':
      return values
    case 'first':
      return values.slice(0, 1)
    case 'last':
      return values.slice(-1)
  }
}

const latest = (of: RunFacts, kind: 'list joined' | 'tag added' | 'date stamped', name: string) =>
  of.facts.happenings.findLast((one) => one.kind === kind && one.name === name)?.at

/** The present values of an anchor: none where it has no value yet, several for each session of a booking. */
export function anchorValues(anchor: Anchor, of: RunFacts): readonly AnchorValue[] {
  const { booking, enquiry, invoice, run } = of
  switch (anchor.of) {
    case 'booking made':
      return moment(booking?.madeAt)
    case 'booking start':
      return sessionValues(booking, 'startAt', anchor.session)
    case 'booking end':
      return sessionValues(booking, 'endAt', anchor.session)
    case 'booking status':
      return moment(booking?.statusAt[anchor.status])
    case 'booking own status':
      return moment(booking?.own.at[anchor.status])
    case 'booking moved':
      return moment(booking?.history.movedAt)
    case 'enquiry received':
      return moment(enquiry?.receivedAt)
    case 'enquiry stage':
      return moment(enquiry?.stageAt[anchor.stage])
    case 'enquiry wished date':
      return date(enquiry?.wishedOn, enquiry?.wishedSetAt)
    case 'enquiry deadline':
      return date(enquiry?.deadlineOn, enquiry?.deadlineSetAt)
    case 'invoice issued':
      return moment(invoice?.issuedAt)
    case 'invoice due':
      return date(invoice?.dueOn, invoice?.dueSetAt)
    case 'invoice paid':
      return moment(invoice?.paidAt)
    case 'list joined':
      return moment(latest(of, 'list joined', anchor.list))
    case 'tag added':
      return moment(latest(of, 'tag added', anchor.tag))
    case 'date stamped':
      return moment(latest(of, 'date stamped', anchor.label))
    case 'run started':
      return moment(run.startedAt)
  }
}

/** An anchor's value as people say it. */
export function valueWords(of: RunFacts, value: AnchorValue): string {
  return value.kind === 'instant' ? inWords(of, value.at) : longDate(value.day)
}
