import type { Router } from 'express'
import { workOf } from '#core/sequences/standIns.ts'
import { endpoints } from '#core/api/endpoints.ts'
import { timetable } from '#core/booking/timetable.ts'
import { epochDayOf, isoDateOf } from '#core/time/calendar.ts'
import { isClosedOn } from '#core/time/openTimes.ts'
import { calendarsOf, serviceOf, placeZone } from '#core/planning/slice.ts'
import { asInvoice, readBooking, readClient } from '../db/clientStore.ts'
import { focusOn } from '../db/livingStore.ts'
import { readRows } from '../db/unreadable.ts'
import type { Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { spanOfDates } from './businessTime.ts'
import { signingViews } from './documents.ts'
import { offeredOn } from './moves.ts'
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
    ownStatuses: [...settings.ownStatuses],
    service,
    personInCharge: workOf(settings.people, booking.personInChargeId),
    placeZone: placeZone(settings, service).name,
    sends: sendLines(application, 'listOfSubject', { subjectId: id }),
    history: historyLines(application, 'eventsOfSubject', { subjectId: id }),
    enquiryId:
      statements.all('enquiryOfBooking', { bookingId: id }).map((row) => String(row['id']))[0] ?? null,
    seatsTaken: application.seatsTaken(service.id, booking.startAt, booking.endAt, null),
    ...offeredOn(application, application.readableSliceOf(booking.clientId, focusOn(id)), {
      of: 'booking',
      item: booking,
    }),
    signings: signingViews(statements, id),
    invoices: readRows(
      statements,
      'invoice',
      statements.all('invoicesOfBooking', { bookingId: id }),
      asInvoice,
    ),
  }
}

interface Dates {
  readonly from: string
  readonly to: string
}

/** The bookings that start within some dates, the last one included. */
function bookingLines(application: Application, { from, to }: Dates) {
  const settings = application.settings.required()
  const { statements } = application.store
  const rows = statements.all('listBookings', spanOfDates(application, from, to))
  return readRows(statements, 'booking', rows, (row) => bookingLine(settings, row))
}

const longestTimetable = 42

/** What is booked and what leaves on some days; of cancelled ones, that they are. */
function timetableDays({ application }: RunningApplication, query: Dates) {
  const [fromDay, toDay] = [epochDayOf(query.from), epochDayOf(query.to)]
  if (toDay < fromDay) throw new Refusal('invalid', 'The last day lies before the first.')
  if (toDay - fromDay >= longestTimetable) {
    throw new Refusal('invalid', `At most ${longestTimetable} days at once.`)
  }
  const settings = application.settings.required()
  const bookings = bookingLines(application, query)
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
    return { bookings: bookingLines(application, query) }
  })
  serve(router, statements, endpoints.timetable, ({ query }) => ({
    days: timetableDays(running, query),
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
  serve(router, statements, endpoints.giveOwnStatus, ({ parameters, body, called }) =>
    valueOf(commands.giveOwnStatus(called('giveOwnStatus'), parameters.id, body.revision, body.status)),
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
