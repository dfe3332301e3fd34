import { businessDate } from '#core/planning/slice.ts'
import { dirname } from 'node:path'
import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { isDeskMessageGroup, type DeskMessageGroup } from '#core/api/deskGroups.ts'
import type { DecideLine, HouseTrouble, SendLine } from '#core/api/views.ts'
import { aheadStates } from '#core/model/sendState.ts'
import { readNoteWishes } from '../db/settingsStore.ts'
import { jumpTrouble } from '../engine/loop/clockJump.ts'
import type { Application } from '../engine/application.ts'
import { diskTrouble } from '../engine/diskRoom.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { spanOfDates } from './businessTime.ts'
import { decideLines, sendLines, taskLines } from './lines.ts'
import { inParts } from './parts.ts'
import { serve, valueOf } from './route.ts'

const stuck = 'Nothing goes out just now: something in here does not work. It is tried again and again.'

/** What the house itself cannot do: go on, send, read a row. */
function houseTroubles({
  application,
  pump,
  incoming,
  mailboxes,
  accounts,
  ways,
  backups,
  record,
}: RunningApplication): HouseTrouble[] {
  const backupTrouble = backups?.trouble() ?? null
  const recordTrouble = record.trouble()
  const mailTrouble = incoming.trouble()
  const disk = diskTrouble(dirname(application.store.file))
  const { obstacle } = ways()
  const since = pump.stuckSince()
  const jump = jumpTrouble(application)
  const bare = { since: null, lines: [], act: null }
  return [
    ...(since === null ? [] : [{ ...bare, key: 'stuck', sentence: stuck, since }]),
    ...(obstacle === null ? [] : [{ ...bare, key: 'sending', sentence: obstacle }]),
    ...(mailTrouble === null ? [] : [{ ...bare, key: 'incoming', ...mailTrouble }]),
    ...(backupTrouble === null ? [] : [{ ...bare, key: 'backup', sentence: backupTrouble }]),
    ...(disk === null ? [] : [{ ...bare, key: 'disk', sentence: disk }]),
    ...(recordTrouble === null ? [] : [{ ...bare, key: 'record', sentence: recordTrouble }]),
    ...mailboxes.troubles().map(({ id, ...trouble }) => ({ ...bare, ...trouble, key: `mailbox|${id}` })),
    ...accounts.troubles().map(({ id, ...trouble }) => ({
      ...bare,
      ...trouble,
      key: `account|${id}`,
      act: { does: 'try account', accountId: id } as const,
    })),
    ...(jump
      ? [
          {
            ...bare,
            key: 'clock',
            sentence: jump.sentence,
            lines: [...jump.lines],
            act: { does: 'trust clock', machineAt: jump.machineAt } as const,
          },
        ]
      : []),
    ...[...application.store.statements.unreadable.values()].map(({ kind, id }) => ({
      ...bare,
      key: `${kind}|${id}`,
      sentence: `What is kept of the ${kind} ${id} cannot be read, so nothing is done with it. Everything else goes on.`,
    })),
  ]
}

function todayOf(application: Application) {
  const today = businessDate(application.settings.required(), application.clock.now())
  return { today, span: spanOfDates(application, today, today) }
}

function desk(running: RunningApplication) {
  const { application } = running
  const { statements } = application.store
  const { span, today: dueBy } = todayOf(application)
  const needs = statements.one('countNeeds', { today: '9999-12-31', dueBy })
  const today = new Map(
    statements.all('countByState', span).map(({ state, count }) => [state, Number(count)] as const),
  )
  return {
    house: houseTroubles(running),
    last: sendLines(application, 'lastGone')[0] ?? null,
    next: sendLines(application, 'nextAhead', { now: application.clock.now() })[0] ?? null,
    counts: {
      decide: Number(needs?.['decide']),
      trouble: Number(needs?.['trouble']),
      'to-do': Number(needs?.['toDo']),
      'went-out': today.get('sent') ?? 0,
      'still-today': aheadStates.reduce((sum, state) => sum + (today.get(state) ?? 0), 0),
    },
  }
}

interface Asked {
  readonly afterId: string | null
  readonly limit: number
}

/** What went wrong: first what would still be of use, those with the least time left first; then what comes too late. */
function listTrouble(application: Application, { afterId, limit }: Asked): SendLine[] {
  const now = application.clock.now()
  const isInTime = afterId === null || !application.store.statements.one('isTooLate', { id: afterId, now })
  const inTime = isInTime ? sendLines(application, 'listTroubleInTime', { afterId, limit, now }) : []
  const rest = { afterId: isInTime ? null : afterId, limit: limit - inTime.length, now }
  return rest.limit === 0 ? inTime : [...inTime, ...sendLines(application, 'listTroubleTooLate', rest)]
}

/** How each group of messages is listed. */
const listOf: Readonly<Record<DeskMessageGroup, (application: Application, asked: Asked) => SendLine[]>> = {
  trouble: listTrouble,
  'went-out': (application, asked) =>
    sendLines(application, 'listWentOut', { ...asked, ...todayOf(application).span }),
  'still-today': (application, asked) =>
    sendLines(application, 'listStillToday', { ...asked, ...todayOf(application).span }),
}

/** Groups of the Desk, part by part. */
function deskLists(router: Router, { application }: RunningApplication) {
  const { statements } = application.store
  /** Reading a list is what finds rows that cannot be read: the Desk says so then. */
  const read = <Value>(list: () => Value): Value => {
    const known = statements.unreadable.size
    const found = list()
    if (statements.unreadable.size !== known) application.changes.publish(['sending'])
    return found
  }
  serve(router, statements, endpoints.deskWaiting, ({ query: { id, ...query } }) =>
    id === undefined
      ? inParts<DecideLine>(query, (asked) => read(() => decideLines(application, 'listWaiting', asked)))
      : { lines: decideLines(application, 'waitingLine', { id }), next: null },
  )
  serve(router, statements, endpoints.deskMessages, ({ parameters, query }) => {
    const { group } = parameters
    if (!isDeskMessageGroup(group)) throw new Refusal('not found', 'The Desk has no such group.')
    return inParts(query, (asked) => read(() => listOf[group](application, asked)))
  })
  serve(router, statements, endpoints.deskTasks, ({ query }) =>
    inParts(query, (asked) => read(() => taskLines(application, 'openTasks', asked))),
  )
}

/** What needs a person now: messages, trouble, tasks. */
export function deskRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  serve(router, statements, endpoints.desk, () => desk(running))
  deskLists(router, running)
  serve(router, statements, endpoints.noteWishes, ({ personId }) => {
    const own = readNoteWishes(statements).find(({ person }) => person.id === personId)
    if (!own) throw new Refusal('not found', 'There is no such person.')
    return { wishes: own.wishes, email: own.person.email }
  })
  serve(router, statements, endpoints.setNoteWishes, ({ body, called }) =>
    valueOf(commands.setNoteWishes(called('setNoteWishes'), body.wishes)),
  )
  serve(router, statements, endpoints.addTask, ({ parameters, body, called }) =>
    valueOf(commands.addTask(called('addTask'), parameters.id, body.task, body.subject)),
  )
  serve(router, statements, endpoints.changeTask, ({ parameters, body, called }) =>
    valueOf(commands.changeTask(called('changeTask'), { ...parameters, revision: body.revision }, body.task)),
  )
  serve(router, statements, endpoints.finishTask, ({ parameters, body, called }) =>
    valueOf(
      commands.finishTask(called('finishTask'), { ...parameters, revision: body.revision }, body.isDone),
    ),
  )
  serve(router, statements, endpoints.noteOnBooking, ({ parameters, body, called }) =>
    valueOf(commands.noteOnBooking(called('noteOnBooking'), parameters.id, body.text)),
  )
  serve(router, statements, endpoints.writeNote, ({ parameters, body, called }) =>
    valueOf(commands.writeNote(called('writeNote'), parameters.id, body.text)),
  )
}
