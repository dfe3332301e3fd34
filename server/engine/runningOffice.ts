import { join } from 'node:path'
import { catchUp } from '#core/engine/sendCommands.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { openStore } from '../db/database.ts'
import { createSmtpSender } from '../mail/smtpSender.ts'
import { openPostOfficeFile, type PostOfficeFile } from '../standins/postOffice/file.ts'
import { startPostOffice } from '../standins/postOffice/start.ts'
import { createChanges } from './changes.ts'
import { createDemoClock, demoStartAt, realClock } from './clock.ts'
import { createCommands, overdueSends, type Commands } from './commands.ts'
import { createDispatcher } from './dispatcher.ts'
import { createOffice, type Office } from './office.ts'
import { createPump, type Pump, type PumpFault } from './pump.ts'
import { createSettingsSource } from './settings.ts'

export interface OfficeOptions {
  readonly folder: string
  readonly isDemo: boolean
  /** SMTP address of a real mail account; null: the built-in post office. */
  readonly smtpUrl: string | null
  /** Where the demo's clock stands in a new database. */
  readonly clockStartsAt?: number
  readonly onFault: PumpFault
}

/** Everything that works together behind the routes. */
export interface RunningOffice {
  readonly office: Office
  readonly commands: Commands
  readonly pump: Pump
  /** Null with a real mail account. */
  readonly postOffice: PostOfficeFile | null
  readonly isDemo: boolean
  /** Takes up the work: doubts what a killed process left, catches up, then keeps going. */
  begin(): Promise<void>
  /** Stops claiming, lets what is under way end, closes everything. */
  end(): Promise<void>
}

/** Ordinary delay of a process that is busy; only what is later than this counts as due while it was off. */
const ordinaryDelayMs = minuteMs
const drainDeadlineMs = 10_000
const realTickMs = 500

export class OptionsError extends Error {}

function catchUpAfterDowntime(office: Office) {
  if (office.clock.kind !== 'real' || !office.settings.current()?.isSendingOn) return
  const context = office.context(null)
  office.apply(catchUp(overdueSends(office, context.now - ordinaryDelayMs), context))
}

/** A copied or restored database must not send what the original may already have sent: it starts held back. */
function holdBackCopy({ commands, office }: Pick<RunningOffice, 'commands' | 'office'>) {
  if (!office.store.isCopy || !office.settings.current()?.isSendingOn) return
  commands.setSending(
    { id: `copy-${office.clock.now()}-${process.pid}`, personId: null, name: 'setSending' },
    false,
  )
}

export async function openOffice(options: OfficeOptions): Promise<RunningOffice> {
  if (options.isDemo && options.smtpUrl !== null) {
    throw new OptionsError(
      'The demo with its movable clock works only with the built-in post office, never with a real mail account.',
    )
  }
  const store = openStore(options.folder)
  const clock = options.isDemo
    ? createDemoClock(store.statements, options.clockStartsAt ?? demoStartAt)
    : realClock
  const running = options.smtpUrl === null ? await startPostOffice(options.folder) : null
  const postOffice = running ? openPostOfficeFile(join(options.folder, 'postoffice.db')) : null
  const sender = createSmtpSender(running?.url ?? options.smtpUrl ?? '')
  const office = createOffice({
    store,
    clock,
    settings: createSettingsSource(store.statements),
    changes: createChanges(),
  })
  const dispatcher = createDispatcher(office, sender)
  const pump = createPump(office, dispatcher, options.onFault)
  const commands = createCommands(office)
  office.onCommand(() => pump.soon())
  let tick: NodeJS.Timeout | null = null
  return {
    office,
    commands,
    pump,
    postOffice,
    isDemo: options.isDemo,
    async begin() {
      dispatcher.doubtAbandoned()
      holdBackCopy({ commands, office })
      catchUpAfterDowntime(office)
      await pump.advance(clock.now())
      if (clock.kind === 'real') tick = setInterval(() => pump.soon(), realTickMs)
    },
    async end() {
      if (tick) clearInterval(tick)
      pump.stop()
      await dispatcher.drain(drainDeadlineMs)
      await pump.settled()
      await running?.stop()
      postOffice?.close()
      store.close()
    },
  }
}
