import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import type { DecideLine, HouseTroubleInput } from '#core/api/views.ts'
import type { SendState } from '#core/model/send.ts'
import { isoDateOf } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { asJson } from '../db/columns.ts'
import { readNoteWishes } from '../db/settingsStore.ts'
import { jumpTrouble } from '../engine/clockJump.ts'
import type { Office } from '../engine/office.ts'
import type { RunningOffice } from '../engine/runningOffice.ts'
import { Refusal } from '../http/problems.ts'
import { businessZone, spanOfDates } from './businessTime.ts'
import { decideLines, sendLines, taskLines } from './lines.ts'
import { serve, valueOf } from './route.ts'

/** More than this many lines are not sent to a page at once. */
const mostLines = 2000

/** What waits for a person, what has the least time left first. */
function waitingLines(office: Office): DecideLine[] {
  return decideLines(office, 'listWaiting', { limit: mostLines }).sort(
    (one, other) =>
      (one.lastChanceAt ?? Infinity) - (other.lastChanceAt ?? Infinity) || one.shownAt - other.shownAt,
  )
}

const stuck = 'Nothing goes out just now: something in here does not work. It is tried again and again.'

/** What the house itself cannot do: go on, send, read a row. */
function houseTroubles({ office, pump, account, sendingObstacle }: RunningOffice): HouseTroubleInput[] {
  const since = pump.stuckSince()
  const jump = jumpTrouble(office)
  const away = account.trouble()
  return [
    ...(since === null ? [] : [{ key: 'stuck', sentence: stuck, since }]),
    ...(sendingObstacle === null ? [] : [{ key: 'sending', sentence: sendingObstacle, since: null }]),
    ...(away ? [{ key: 'account', ...away, act: { does: 'try account' } as const }] : []),
    ...(jump
      ? [
          {
            key: 'clock',
            sentence: jump.sentence,
            since: null,
            lines: [...jump.lines],
            act: { does: 'trust clock', machineAt: jump.machineAt } as const,
          },
        ]
      : []),
    ...[...office.store.statements.unreadable.values()].map(({ kind, id }) => ({
      key: `${kind}|${id}`,
      sentence: `What is kept of the ${kind} ${id} cannot be read, so nothing is done with it. Everything else goes on.`,
      since: null,
    })),
  ]
}

function desk(running: RunningOffice) {
  const { office } = running
  const today = isoDateOf(dayAt(businessZone(office), office.clock.now()))
  const ofToday = (states: readonly SendState[]) =>
    sendLines(office, 'listByTime', {
      ...spanOfDates(office, today, today),
      clientId: null,
      serviceId: null,
      sequenceId: null,
      letterId: null,
      statesJson: asJson(states),
      limit: mostLines,
      offset: 0,
    })
  const lists = {
    decide: waitingLines(office),
    trouble: sendLines(office, 'listTrouble', {}),
    toDo: taskLines(office, 'openTasks', {}),
    wentOut: ofToday(['sent']).reverse(),
    stillToday: ofToday(['ready', 'approved', 'waiting', 'expected', 'sending']),
  }
  // Last: reading the lists is what finds rows that cannot be read.
  return { ...lists, house: houseTroubles(running) }
}

/** What needs a person now: messages, trouble, tasks. */
export function deskRoutes(router: Router, running: RunningOffice) {
  const { office, commands } = running
  const { statements } = office.store
  serve(router, statements, endpoints.desk, () => desk(running))
  serve(router, statements, endpoints.noteWishes, ({ personId }) => {
    const own = readNoteWishes(statements).find(({ person }) => person.id === personId)
    if (!own) throw new Refusal('not found', 'There is no such person.')
    return { wishes: own.wishes, email: own.person.email }
  })
  serve(router, statements, endpoints.setNoteWishes, ({ body, called }) =>
    valueOf(commands.setNoteWishes(called('setNoteWishes'), body.wishes)),
  )
  serve(router, statements, endpoints.addTask, ({ parameters, body, called }) =>
    valueOf(commands.addTask(called('addTask'), parameters.id, body.task)),
  )
  serve(router, statements, endpoints.changeTask, ({ parameters, body, called }) =>
    valueOf(commands.changeTask(called('changeTask'), { ...parameters, revision: body.revision }, body.task)),
  )
  serve(router, statements, endpoints.finishTask, ({ parameters, body, called }) =>
    valueOf(
      commands.finishTask(called('finishTask'), { ...parameters, revision: body.revision }, body.isDone),
    ),
  )
  serve(router, statements, endpoints.writeNote, ({ parameters, body, called }) =>
    valueOf(commands.writeNote(called('writeNote'), parameters.id, body.text)),
  )
}
