import { Button, NumberInput } from '@mantine/core'
import { useState } from 'react'
import type { BookingView } from '#core/api/views.ts'
import { moneyIn } from '#core/letters/language.ts'
import type { InvoiceReason } from '#core/model/dealings.ts'
import { openOf, paidFor } from '#core/model/policy.ts'
import { epochDayOf, isoDateOf } from '#core/time/calendar.ts'
import { shortDate } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { DateField } from '../../parts/DateField.tsx'
import table from '../../parts/timetable.module.css'
import styles from './BookingPage.module.css'

type Invoice = BookingView['invoices'][number]

const reasonWords: Readonly<Record<InvoiceReason, string>> = {
  deposit: 'Deposit',
  balance: 'Rest of the price',
  fee: 'Fee for cancelling',
  other: 'Further costs',
}

/** How an invoice stands, by shape and word. */
function State({ invoice }: { invoice: Invoice }) {
  const { zone, now, year } = useBusiness()
  const { voidedAt, paidAt, dueOn, amountCents } = invoice
  if (voidedAt !== null) return <>– void</>
  if (paidAt !== null) return <>✓ paid {shortDate(dayAt(zone, paidAt), year)}</>
  const due = dueOn === null ? '' : `, due ${shortDate(epochDayOf(dueOn), year)}`
  const isLate = dueOn !== null && dueOn < isoDateOf(dayAt(zone, now))
  const paid = paidFor(invoice)
  const soFar = paid === 0 ? 'open' : `${moneyIn('en', paid)} of ${moneyIn('en', amountCents)} paid`
  return (
    <>
      {isLate ? '✕' : paid === 0 ? '○' : '◐'} {soFar}
      {due}
      {isLate && ', overdue'}
    </>
  )
}

/** Null: nothing is typed. */
const inCents = (euros: number | string) => (euros === '' ? null : Math.round(Number(euros) * 100))

/** A client has paid, all of it or a part. */
function Paid({ invoice, onClose }: { invoice: Invoice; onClose: () => void }) {
  const [euros, setEuros] = useState<number | string>(openOf(invoice) / 100)
  const cents = inCents(euros)
  return (
    <div className={styles.payment}>
      <NumberInput
        label="So much has come in, in €"
        min={0}
        decimalScale={2}
        value={euros}
        onChange={setEuros}
      />
      <ConsideredAct
        name="notePayment"
        asked={cents === null ? null : { parameters: { id: invoice.id }, body: { payment: { cents } } }}
        word="Note the payment"
        takesFocus={false}
        onClose={onClose}
      />
    </div>
  )
}

function Row({ invoice }: { invoice: Invoice }) {
  const [doing, setDoing] = useState<'paid' | 'void' | null>(null)
  const { id, number, reason, amountCents } = invoice
  const isOpen = openOf(invoice) > 0
  const close = () => setDoing(null)
  return (
    <li className={styles.payment}>
      <div>
        <b>{moneyIn('en', amountCents)}</b> {reasonWords[reason]}{' '}
        {number !== null && <span className={table.quiet}>· invoice {number}</span>}
        <br />
        <State invoice={invoice} />
      </div>
      {isOpen && doing === null && (
        <div className={table.acts}>
          <Button size="compact-md" variant="default" onClick={() => setDoing('paid')}>
            Paid…
          </Button>
          <Button size="compact-md" variant="default" onClick={() => setDoing('void')}>
            Take it back…
          </Button>
        </div>
      )}
      {doing === 'paid' && <Paid invoice={invoice} onClose={close} />}
      {doing === 'void' && (
        <ConsideredAct
          name="voidInvoice"
          asked={{ parameters: { id }, body: {} }}
          word="Take it back"
          color="brick"
          onClose={close}
        />
      )}
    </li>
  )
}

/** A further invoice, beside what the service asks for by itself. */
function Further({ bookingId, onClose }: { bookingId: string; onClose: () => void }) {
  const [euros, setEuros] = useState<number | string>('')
  const [dueOn, setDueOn] = useState<string | null>(null)
  const amountCents = inCents(euros)
  return (
    <div className={styles.payment}>
      <NumberInput label="Amount, in €" min={0} decimalScale={2} value={euros} onChange={setEuros} />
      <DateField label="Due" clearable value={dueOn} onChange={setDueOn} />
      <ConsideredAct
        name="addInvoice"
        asked={
          amountCents === null
            ? null
            : { parameters: { id: bookingId }, body: { invoice: { amountCents, dueOn } } }
        }
        word="Issue the invoice"
        takesFocus={false}
        onClose={onClose}
      />
    </div>
  )
}

/** What is to be paid for a booking, what has come in, and what can be done about it. */
export function Payments({ view: { booking, invoices } }: { view: BookingView }) {
  const [isAsking, setIsAsking] = useState(false)
  return (
    <>
      <h2 className={table.group}>Payments</h2>
      {invoices.length === 0 && !isAsking && <p className={table.note}>Nothing is asked for.</p>}
      <ul className={table.list}>
        {invoices.map((invoice) => (
          <Row key={invoice.id} invoice={invoice} />
        ))}
      </ul>
      {isAsking ? (
        <Further bookingId={booking.id} onClose={() => setIsAsking(false)} />
      ) : (
        <div className={styles.payment}>
          <div className={table.acts}>
            <Button size="compact-md" variant="default" onClick={() => setIsAsking(true)}>
              Ask for a payment…
            </Button>
          </div>
        </div>
      )}
    </>
  )
}
