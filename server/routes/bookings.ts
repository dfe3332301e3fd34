import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { timetable } from '#core/booking/timetable.ts'
import { epochDayOf, isoDateOf } from '#core/time/calendar.ts'
import { isClosedOn } from '#core/time/openTimes.ts'
import { instantAt } from '#core/time/zones.ts'
import { calendarsOf, serviceOf, placeZone } from '#core/planning/slice.ts'
import { asInvoice, readBooking, readClient } from '../db/clientStore.ts'
import { readRows } from '../db/unreadable.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { bookingLine, historyLines, sendLines } from './lines.ts'
import { Refusal } from '../http/problems.ts'
import { askedOf, asking, serve, valueOf } from './route.ts'

function bookingView({ application }: RunningApplication, id: string) {
  const { statements } = application.store
  const booking = readBooking(statements, id)
  if (!booking) throw new Refusal('not found', 'There is no such booking.')
  const settings = application.settings.required()
  const client = readClient(statements, booking.clientId)
  const service = serviceOf(settings, booking.serviceId)
  return {
    booking,
    clientName: client?.name ?? '',
    contacts: client?.contacts ?? [],
    service,
    personInCharge: settings.people.find((one) => one.id === booking.personInChargeId) ?? null,
    placeZone: placeZone(settings, service).name,
    sends: sendLines(application, 'listOfBooking', { bookingId: id }),
    history: historyLines(application, 'eventsOfBooking', { bookingId: id }),
    seatsTaken: application.seatsTaken(service.id, booking.startAt, booking.endAt, null),
    invoices: readRows(
      statements,
      'invoice',
      statements.all('invoicesOfBooking', { bookingId: id }),
      asInvoice,
    ),
  }
}

const longestTimetable = 42

/** What is booked and what leaves on some days; of cancelled ones, that they are. */
function timetableDays({ application }: RunningApplication, fromDay: number, toDay: number) {
  if (toDay < fromDay) throw new Refusal('invalid', 'The last day lies before the first.')
  if (toDay - fromDay >= longestTimetable) {
    throw new Refusal('invalid', `At most ${longestTimetable} days at once.`)
  }
  const settings = application.settings.required()
  const zone = settings.zones.zone(settings.business.zone)
  const { statements } = application.store
  const rows = statements.all('listBookings', {
    from: instantAt(zone, fromDay, 0),
    to: instantAt(zone, toDay + 1, 0),
  })
  const bookings = readRows(statements, 'booking', rows, (row) => bookingLine(settings, row))
  const { office } = calendarsOf(settings)
  return timetable(settings, bookings, { fromDay, toDay, now: application.clock.now() }).map(
    ({ day, lines }) => ({
      on: isoDateOf(day),
      isClosed: isClosedOn(office, day),
      holiday: application.settings.holidayName(day),
      lines: lines.map((line) => ({
        ...line,
        serviceName: serviceOf(settings, line.serviceId).name,
        bookings: [...line.bookings],
      })),
    }),
  )
}

export function bookingRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store

  serve(router, statements, endpoints.bookings, ({ query }) => {
    const settings = application.settings.required()
    const zone = settings.zones.zone(settings.business.zone)
    const from = instantAt(zone, epochDayOf(query.from), 0)
    const to = instantAt(zone, epochDayOf(query.to) + 1, 0)
    const rows = statements.all('listBookings', { from, to })
    return { bookings: readRows(statements, 'booking', rows, (row) => bookingLine(settings, row)) }
  })
  serve(router, statements, endpoints.timetable, ({ query }) => ({
    days: timetableDays(running, epochDayOf(query.from), epochDayOf(query.to)),
  }))
  serve(router, statements, endpoints.actOnBookings, ({ body, called }) =>
    valueOf(commands.actOnBookings(called('actOnBookings'), body.bookings, body.act)),
  )
  serve(router, statements, endpoints.booking, ({ parameters }) => bookingView(running, parameters.id))
  serve(router, statements, endpoints.makeBooking, ({ body, called }) =>
    valueOf(commands.makeBooking(called('makeBooking'), body.booking)),
  )
  serve(router, statements, endpoints.confirmBooking, ({ parameters, body, called }) =>
    valueOf(commands.confirmBooking(called('confirmBooking'), parameters.id, body.revision)),
  )
  serve(router, statements, endpoints.moveBooking, ({ parameters, body, called }) =>
    valueOf(commands.moveBooking(called('moveBooking'), parameters.id, body.revision, body.times)),
  )
  serve(router, statements, endpoints.askAboutBooking, ({ parameters: { id }, body, personId }) => {
    const call = asking(body.act, personId)
    return askedOf(() => valueOf(commands.onBooking(call, id, body))).announcement
  })
  serve(router, statements, endpoints.changeBooking, ({ parameters, body, called }) =>
    valueOf(commands.changeBooking(called('changeBooking'), parameters.id, body.revision, body.facts)),
  )
  serve(router, statements, endpoints.settleBooking, ({ parameters, body, called }) =>
    valueOf(commands.settleNow(called('settleNow'), parameters.id, body.revision)),
  )
  serve(router, statements, endpoints.missBooking, ({ parameters, body, called }) =>
    valueOf(commands.missBooking(called('missBooking'), parameters.id, body.revision)),
  )
  serve(router, statements, endpoints.completeBooking, ({ parameters, body, called }) =>
    valueOf(commands.completeBooking(called('completeBooking'), parameters.id, body.revision)),
  )
  serve(router, statements, endpoints.addInvoice, ({ parameters, body, called }) =>
    valueOf(commands.addInvoice(called('addInvoice'), parameters.id, body.invoice)),
  )
  serve(router, statements, endpoints.notePayment, ({ parameters, body, called }) =>
    valueOf(commands.notePayment(called('notePayment'), parameters.id, body.payment.cents)),
  )
  serve(router, statements, endpoints.voidInvoice, ({ parameters, called }) =>
    valueOf(commands.voidInvoice(called('voidInvoice'), parameters.id)),
  )
  serve(router, statements, endpoints.cancelBooking, ({ parameters, body, called }) =>
    valueOf(commands.cancelBooking(called('cancelBooking'), parameters.id, body.revision)),
  )
}
