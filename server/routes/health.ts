import { dirname } from 'node:path'
import type { Request, RequestHandler, Router } from 'express'
import { collectDefaultMetrics, Gauge, Registry } from 'prom-client'
import { houseEndpoints } from '#core/api/fileEndpoints.ts'
import { roomOn } from '../engine/diskRoom.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { isAtHome } from '../http/doors.ts'
import { Refusal } from '../http/problems.ts'
import { needsOf } from './frame.ts'

/** Why nothing goes on; empty: it does. */
function faultsOf({ application, pump }: RunningApplication): string[] {
  try {
    application.store.statements.one('readBusiness')
    return pump.stuckSince() === null ? [] : ['stuck']
  } catch {
    return ['database']
  }
}

interface Measure {
  readonly name: string
  readonly help: string
  readonly value: (running: RunningApplication) => number
}

const onTheirWay = ({ application }: RunningApplication) =>
  Number(application.store.statements.one('countOnTheirWay')?.['count'] ?? 0)

/** What is measured; each name ends in its unit. */
const measures: readonly Measure[] = [
  {
    name: 'vorfreude_up',
    help: '1: everything goes on',
    value: (running) => (faultsOf(running).length === 0 ? 1 : 0),
  },
  {
    name: 'vorfreude_sending_on',
    help: '0: sending is held back',
    value: ({ application }) => (application.settings.current()?.isSendingOn ? 1 : 0),
  },
  {
    name: 'vorfreude_account_away',
    help: 'How many mail accounts take nothing',
    value: ({ accounts }) => accounts.troubles().length,
  },
  {
    name: 'vorfreude_mailbox_away',
    help: 'How many mailboxes cannot be read',
    value: ({ mailboxes }) => mailboxes.troubles().length,
  },
  { name: 'vorfreude_messages_planned', help: 'Messages that are to come', value: onTheirWay },
  {
    name: 'vorfreude_free_bytes',
    help: 'Room on the disk of the data',
    value: ({ application }) => roomOn(dirname(application.store.file)) ?? Number.NaN,
  },
]

/** The measures of one house, in a register of its own. */
function registerOf(running: RunningApplication): Registry {
  const register = new Registry()
  collectDefaultMetrics({ register })
  for (const { name, help, value } of measures) {
    new Gauge({
      name,
      help,
      registers: [register],
      collect() {
        this.set(value(running))
      },
    })
  }
  new Gauge({
    name: 'vorfreude_needs_a_person',
    help: 'What needs a person, by the group of the Desk',
    labelNames: ['group'],
    registers: [register],
    collect() {
      if (!running.application.settings.current()) return
      for (const [group, count] of Object.entries(needsOf(running.application))) this.set({ group }, count)
    },
  })
  return register
}

/** What watches over the house asks at home: nobody outside learns how it is. */
const atHome = (request: Request) => {
  if (!isAtHome(request)) throw new Refusal('not found', `There is nothing at GET ${request.path}.`)
}

/** Whether everything goes on, for a program that watches. */
export function healthRoutes(router: Router, running: RunningApplication) {
  const register = registerOf(running)
  const health: RequestHandler = (request, response) => {
    atHome(request)
    const faults = faultsOf(running)
    response
      .status(faults.length === 0 ? 200 : 503)
      .json({ status: faults.length === 0 ? 'ok' : 'at fault', faults })
  }
  router.get(houseEndpoints.health.path, health)
  router.get(houseEndpoints.metrics.path, async (request, response) => {
    atHome(request)
    response.type(register.contentType).send(await register.metrics())
  })
}
