import { instantOfLocal } from '#core/time/localText.ts'
import { openOf } from '#core/model/policy.ts'
import { dayMs, hourMs } from '#core/time/calendar.ts'
import { realZones } from '#core/time/realZones.ts'
import { asInvoice } from '#server/db/clientStore.ts'
import { callOf } from '#server/engine/application.ts'
import type { RunningApplication } from '#server/engine/runningApplication.ts'
import type { DemoBooking, DemoThen } from './bookings.ts'
import { business } from './business.ts'

/** Who of the demo pays otherwise than in time: nothing, only the deposit, a part of that, or all of it early. */
const otherwise: Readonly<Record<string, 'nothing' | 'the deposit' | 'a part' | 'early'>> = {
  siltanen: 'early',
  nightingale: 'the deposit',
  hartung: 'a part',
  dunkelberg: 'nothing',
  jurgens: 'a part',
}

const partCents = 5_000

/** So long after it was asked for a deposit is paid, and so long before the flight the rest. */
const depositAfterMs = 3 * dayMs + 2 * hourMs
const balanceBeforeMs = 15 * dayMs + 9 * hourMs

const atOf = ({ then }: DemoBooking, what: DemoThen[0]) => then.find((one) => one[0] === what)

/** The moments at which a booking is paid for, and how: most do so on the page, in time. */
export function paymentsOf(
  booking: DemoBooking,
  bookingId: () => string,
  { application, commands }: RunningApplication,
) {
  const zone = realZones.zone(business.zone)
  const madeAt = instantOfLocal(zone, atOf(booking, 'confirmed')?.[1] ?? booking.madeAt)
  const startAt = instantOfLocal(zone, atOf(booking, 'moved')?.[2] ?? booking.start)
  const how = otherwise[booking.client]
  const pay = (most: number) => () => {
    const { statements } = application.store
    const open = statements
      .all('invoicesOfBooking', { bookingId: bookingId() })
      .map(asInvoice)
      .find((one) => openOf(one) > 0)
    if (!open) return
    const told = { reference: `demo-${open.id}`, cents: Math.min(most, openOf(open)) }
    const paid = commands.receivePayment(callOf('receivePayment', `demo-${open.id}`), open.id, told)
    if (!paid.ok) throw new Error(`The demo's data does not play: ${paid.problem.sentence}`)
  }
  if (how === 'nothing') return []
  const first = { at: madeAt + depositAfterMs, run: pay(how === 'a part' ? partCents : Infinity) }
  const secondAt = how === 'early' ? 0 : startAt - balanceBeforeMs
  const second = { at: Math.max(secondAt, first.at + dayMs), run: pay(Infinity) }
  return how === undefined || how === 'early' ? [first, second] : [first]
}
