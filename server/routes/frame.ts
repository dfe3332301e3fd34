import type { Router } from 'express'
import { endpoints, type ClockTarget } from '#core/api/endpoints.ts'
import { nameInUse, type ClockView, type RibbonDay } from '#core/api/views.ts'
import { aheadStates, troubleStates, type SendState } from '#core/model/sendState.ts'
import { calendarsOf, placeZone, serviceOf } from '#core/planning/slice.ts'
import { dayMs, hourMs, isoDateOf, minuteMs, type EpochDay } from '#core/time/calendar.ts'
import { isClosedOn } from '#core/time/openTimes.ts'
import { addCalendar } from '#core/time/arithmetic.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import type { Office } from '../engine/office.ts'
import type { RunningOffice } from '../engine/runningOffice.ts'
import { accountSentence } from '../mail/mailAccount.ts'
import { businessZone, instantOfLocal } from './businessTime.ts'
import { Refusal } from '../http/problems.ts'
import { serve, valueOf } from './route.ts'

function clockView({ office, pump }: RunningOffice): ClockView {
  const { clock } = office
  return {
    kind: clock.kind,
    now: clock.now(),
    movingTo: pump.movingTo(),
    nextMessageAt: pump.nextMessageAt(),
  }
}

function overview(running: RunningOffice) {
  const { office, postOffice } = running
  const { business, isSendingOn, zones } = office.settings.required()
  const { statements } = office.store
  return {
    businessName: business.name,
    zoneLine: zones.packed(business.zone),
    timeDataVersion: zones.version,
    clock: clockView(running),
    sending: { isOn: isSendingOn, onTheirWay: Number(statements.one('countOnTheirWay')?.['count'] ?? 0) },
    needs: needsOf(office),
    isCopy: office.store.isCopy,
    hasPostOffice: postOffice !== null,
  }
}

function needsOf(office: Office) {
  const today = isoDateOf(dayAt(businessZone(office), office.clock.now()))
  const counts = office.store.statements.one('countNeeds', { today })
  const count = (name: string) => Number(counts?.[name] ?? 0)
  return { decide: count('decide'), trouble: count('trouble'), toDo: count('toDo') }
}

/** How far a moving clock may have come since it was shown. */
const shownFor = 10 * minuteMs

const daysBack = 3
const daysAhead = 21
const planned = aheadStates.filter((state) => state !== 'waiting')

function ribbonDay({ office }: RunningOffice, day: EpochDay): RibbonDay {
  const settings = office.settings.required()
  const zone = settings.zones.zone(settings.business.zone)
  const { statements } = office.store
  const counts = new Map(
    statements
      .all('countByState', { from: instantAt(zone, day, 0), to: instantAt(zone, day + 1, 0) })
      .map((row): [string, number] => [String(row['state']), Number(row['count'])]),
  )
  const sum = (states: readonly SendState[]) =>
    states.reduce((total, state) => total + (counts.get(state) ?? 0), 0)
  const { office: officeTimes, sending } = calendarsOf(settings)
  return {
    on: isoDateOf(day),
    isClosed: isClosedOn(officeTimes, day) || isClosedOn(sending, day),
    holiday: office.settings.holidayName(day),
    sent: sum(['sent']),
    planned: sum(planned),
    waiting: sum(['waiting']),
    trouble: sum(troubleStates),
  }
}

const furthestMs = 400 * dayMs

/** Where the demo's clock is to move. Only forward, and not by more than about a year at once. */
function clockTargetAt(running: RunningOffice, target: ClockTarget): number {
  const { office, pump } = running
  const now = office.clock.now()
  const zone = businessZone(office)
  switch (target.to) {
    case 'hour':
      return now + hourMs
    case 'day':
      return (
        addCalendar(
          zone,
          now,
          { amount: 1, unit: 'days' },
          'after',
          null,
          calendarsOf(office.settings.required()).office,
        ) ?? now
      )
    case 'next message': {
      const next = pump.nextMessageAt()
      if (next === null)
        throw new Refusal('not allowed now', 'No message is planned, so there is none to move to.')
      return Math.max(next, now)
    }
    case 'date': {
      const at = instantOfLocal(office, target.local)
      if (at <= now)
        throw new Refusal('invalid', 'The clock only moves forward.', [
          { path: 'local', detail: 'The clock only moves forward.' },
        ])
      if (at > now + furthestMs) {
        const detail = 'Not more than 400 days at once.'
        throw new Refusal('invalid', detail, [{ path: 'local', detail }])
      }
      return at
    }
  }
}

export function frameRoutes(router: Router, running: RunningOffice) {
  const { office, commands, pump } = running
  const { statements } = office.store
  serve(router, statements, endpoints.overview, () => overview(running))
  serve(router, statements, endpoints.ribbon, () => {
    const today = dayAt(businessZone(office), office.clock.now())
    const days = Array.from({ length: daysBack + 1 + daysAhead }, (_, index) => today - daysBack + index)
    return { days: days.map((day) => ribbonDay(running, day)) }
  })
  serve(router, statements, endpoints.settings, () => {
    const settings = office.settings.required()
    return {
      services: settings.services.map((one) => ({
        ...one,
        zone: placeZone(settings, serviceOf(settings, one.id)).name,
      })),
      people: [...settings.people],
      letters: settings.letters
        .filter(({ isArchived }) => !isArchived)
        .map(({ id, name, moment, class: kind }) => ({ id, name, moment, class: kind })),
      sequences: settings.sequences.map(({ id, name, state }) => ({ id, name, state })),
      variations: [...settings.variations],
      hasSharedMailbox: settings.business.sharedMailbox !== null,
      namesInUse: statements.all('namesInUse').map((row) => nameInUse.parse(row)),
    }
  })
  serve(router, statements, endpoints.moveClock, ({ body }) => {
    if (office.clock.kind === 'real')
      throw new Refusal('not allowed now', 'The real clock moves by itself only.')
    if (pump.movingTo() !== null)
      throw new Refusal('not allowed now', 'The clock is moving already. Stop it first.')
    const target = clockTargetAt(running, body)
    pump.advance(target).catch(() => undefined)
    return { target }
  })
  serve(router, statements, endpoints.stopClock, () => {
    pump.stop()
    return {}
  })
  serve(router, statements, endpoints.trustClock, ({ body }) => {
    const jump = office.clock.jump()
    if (!jump) throw new Refusal('not allowed now', 'The clock is right again.')
    if (Math.abs(jump.machineAt - body.machineAt) > shownFor)
      throw new Refusal('changed meanwhile', 'The clock says something else by now. Look again.')
    running.trustClock()
    return {}
  })
  serve(router, statements, endpoints.tryAccount, async () => {
    const fault = await running.account.tryNow()
    return { sentence: fault && accountSentence(fault) }
  })
  serve(router, statements, endpoints.setSending, ({ body, called }) =>
    valueOf(commands.setSending(called('setSending'), body.isOn)),
  )
}
