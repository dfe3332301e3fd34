import { businessDate } from '#core/planning/slice.ts'
import type { Router } from 'express'
import { instantOfLocal } from '#core/time/localText.ts'
import { endpoints, type ClockTarget } from '#core/api/endpoints.ts'
import { nameInUse, type ClockView, type RibbonDay, type SettingsView } from '#core/api/views.ts'
import { aheadStates, troubleStates, type SendState } from '#core/model/sendState.ts'
import { calendarsOf, placeZone, serviceOf } from '#core/planning/slice.ts'
import { dayMs, hourMs, isoDateOf, minuteMs, type EpochDay } from '#core/time/calendar.ts'
import { isClosedOn } from '#core/time/openTimes.ts'
import { addCalendar } from '#core/time/arithmetic.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import type { Application } from '../engine/application.ts'
import { readDailyCap } from '../engine/sending/dailyCap.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { accountSentence } from '../mail/mailAccount.ts'
import { businessZone } from './businessTime.ts'
import { Refusal } from '../http/problems.ts'
import { serve, valueOf } from './route.ts'

function clockView({ application, pump }: RunningApplication): ClockView {
  const { clock } = application
  return {
    kind: clock.kind,
    now: clock.now(),
    movingTo: pump.movingTo(),
    nextMessageAt: pump.nextMessageAt(),
  }
}

function overview(running: RunningApplication) {
  const { application, ways } = running
  const { business, isSendingOn, onlyTo, zones } = application.settings.required()
  const { statements } = application.store
  return {
    businessName: business.name,
    zoneLine: zones.packed(business.zone),
    timeDataVersion: zones.version,
    clock: clockView(running),
    sending: {
      isOn: isSendingOn,
      onTheirWay: Number(statements.one('countOnTheirWay')?.['count'] ?? 0),
      onlyTo: onlyTo && [...onlyTo],
      capReachedAt: readDailyCap(statements).reachedAt,
    },
    needs: needsOf(application),
    isCopy: application.store.isCopy,
    hasPostOffice: !ways().isReal,
  }
}

export function needsOf(application: Application) {
  const today = businessDate(application.settings.required(), application.clock.now())
  const counts = application.store.statements.one('countNeeds', { today, dueBy: today })
  const count = (name: 'decide' | 'trouble' | 'toDo') => Number(counts?.[name] ?? 0)
  return { decide: count('decide'), trouble: count('trouble'), toDo: count('toDo') }
}

/** How far a moving clock may have come since it was shown. */
const shownFor = 10 * minuteMs

const daysBack = 3
const daysAhead = 21
const planned = aheadStates.filter((state) => state !== 'waiting')

function ribbonDay({ application }: RunningApplication, day: EpochDay): RibbonDay {
  const settings = application.settings.required()
  const zone = settings.zones.zone(settings.business.zone)
  const { statements } = application.store
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
    holiday: application.settings.holidayName(day),
    sent: sum(['sent']),
    planned: sum(planned),
    waiting: sum(['waiting']),
    trouble: sum(troubleStates),
  }
}

const furthestMs = 400 * dayMs

/** Where the demo's clock is to move. Only forward, and not by more than about a year at once. */
function clockTargetAt(running: RunningApplication, target: ClockTarget): number {
  const { application, pump } = running
  const now = application.clock.now()
  const zone = businessZone(application)
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
          calendarsOf(application.settings.required()).office,
        ) ?? now
      )
    case 'next message': {
      const next = pump.nextMessageAt()
      if (next === null)
        throw new Refusal('not allowed now', 'No message is planned, so there is none to move to.')
      return Math.max(next, now)
    }
    case 'date': {
      const at = instantOfLocal(businessZone(application), target.local)
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

/** What pages need to know of the settings. */
function settingsView({ application, publicUrl }: RunningApplication): SettingsView {
  const settings = application.settings.required()
  return {
    services: settings.services.map((one) => ({
      ...one,
      zone: placeZone(settings, serviceOf(settings, one.id)).name,
    })),
    ownStatuses: [...settings.ownStatuses],
    pipelines: [...settings.pipelines],
    documents: [...settings.documents],
    forms: [...settings.forms],
    onePressMoves: [...settings.onePressMoves],
    people: [...settings.people],
    letters: settings.letters
      .filter(({ isArchived }) => !isArchived)
      .map(({ id, name, moment, class: kind }) => ({ id, name, moment, class: kind })),
    sequences: settings.sequences.map(({ id, name, state }) => ({ id, name, state })),
    variations: [...settings.variations],
    publicUrl: publicUrl(),
    hasSharedMailbox: settings.business.sharedMailbox !== null,
    namesInUse: application.store.statements.all('namesInUse').map((row) => nameInUse.parse(row)),
  }
}

export function frameRoutes(router: Router, running: RunningApplication) {
  const { application, commands, pump } = running
  const { statements } = application.store
  serve(router, statements, endpoints.overview, () => overview(running))
  serve(router, statements, endpoints.ribbon, () => {
    const today = dayAt(businessZone(application), application.clock.now())
    const days = Array.from({ length: daysBack + 1 + daysAhead }, (_, index) => today - daysBack + index)
    return { days: days.map((day) => ribbonDay(running, day)) }
  })
  serve(router, statements, endpoints.settings, () => settingsView(running))
  serve(router, statements, endpoints.moveClock, ({ body }) => {
    if (application.clock.kind === 'real')
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
    const jump = application.clock.jump()
    if (!jump) throw new Refusal('not allowed now', 'The clock is right again.')
    if (Math.abs(jump.machineAt - body.machineAt) > shownFor)
      throw new Refusal('changed meanwhile', 'The clock says something else by now. Look again.')
    running.trustClock()
    return {}
  })
  serve(router, statements, endpoints.tryAccount, async ({ body }) => {
    const fault = (await running.accounts.of(body.accountId)?.tryNow()) ?? null
    return { sentence: fault && accountSentence(fault) }
  })
  serve(router, statements, endpoints.setSending, ({ body, called }) =>
    valueOf(commands.setSending(called('setSending'), body.isOn)),
  )
}
