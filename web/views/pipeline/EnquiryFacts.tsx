import { Fragment, type ReactNode } from 'react'
import { Link } from 'react-router'
import type { EnquiryView } from '#core/api/enquiryViews.ts'
import { moneyIn } from '#core/letters/language.ts'
import { fullName } from '#core/model/client.ts'
import { epochDayOf, isoDateOf } from '#core/time/calendar.ts'
import { shortDate } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import facts from '../bookings/BookingPage.module.css'
import styles from './pipeline.module.css'
import { isLate } from './rows.ts'

/** What is known of an enquiry, and what is not said yet. */
export function EnquiryFacts({ view }: { view: EnquiryView }) {
  const { enquiry, serviceName, personInCharge, clientName, contacts, bookingStatus } = view
  const hears = contacts.filter(({ id }) => enquiry.contactIds.includes(id))
  const { zone, now, year } = useBusiness()
  const { what, wishedOn, partySize, budgetCents, source, deadlineOn, lostReason, bookingId } = enquiry
  const late = isLate(enquiry, isoDateOf(dayAt(zone, now)))
  const day = (on: string) => shortDate(epochDayOf(on), year)
  const pairs: readonly (readonly [string, ReactNode])[] = [
    ['What for', what || null],
    ['Service', serviceName],
    ['Day 0', wishedOn === null ? 'no date yet' : day(wishedOn)],
    ['For', partySize === null ? null : partySize === 1 ? '1 person' : `${partySize} people`],
    ['Budget', budgetCents === null ? null : moneyIn('en', budgetCents)],
    ['Came by', source || null],
    [
      'Hears of it',
      hears.length === 0 ? null : hears.map((one) => fullName({ name: clientName }, one)).join(', '),
    ],
    ['In charge', personInCharge?.name ?? 'nobody: the business'],
    [
      'Deadline',
      deadlineOn === null ? null : (
        <span className={late ? styles.late : ''}>
          {late && '✕ '}
          {day(deadlineOn)}
        </span>
      ),
    ],
    ['Why lost', lostReason || null],
    [
      'Became',
      bookingId === null ? null : (
        <>
          <Link to={`/booking/${bookingId}`}>its booking</Link>, {bookingStatus}
        </>
      ),
    ],
    ...enquiry.answers.map(({ question, answer }) => [question, answer] as const),
    ['Asked', <When at={enquiry.receivedAt} />],
  ]
  return (
    <dl className={facts.facts}>
      {pairs.map(([name, value]) =>
        value === null ? null : (
          <Fragment key={name}>
            <dt>{name}</dt>
            <dd className={name === 'Asked' ? table.quiet : ''}>{value}</dd>
          </Fragment>
        ),
      )}
    </dl>
  )
}
