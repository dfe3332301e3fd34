import { unconsidered } from '#core/api/described.ts'
import { join } from 'node:path'
import { openStore, type Store } from '../db/database.ts'
import { signedToken, type LinkPurpose } from '../mail/signedLinks.ts'
import type { SmtpLimits } from '../mail/conversation.ts'
import { createMailAccount, type MailAccount } from '../mail/mailAccount.ts'
import { accountAt, createSmtpSender, limitsOfPostOffice } from '../mail/smtpSender.ts'
import { secretOf } from '../mail/webCall.ts'
import { openPostOfficeFile, type PostOfficeFile } from '../standins/postOffice/file.ts'
import { startPostOffice } from '../standins/postOffice/start.ts'
import { createChanges } from './changes.ts'
import { createDemoClock, createRealClock, demoStartAt } from './clock.ts'
import { catchUpEffects, watchJumps } from './clockJump.ts'
import { createCommands, type Commands } from './commands.ts'
import { createDispatcher } from './dispatcher.ts'
import { createOffice, type Office } from './office.ts'
import { createPump, type Pump, type PumpFault } from './pump.ts'
import { planAllAnew } from './sequenceCommands.ts'
import { createSettingsSource, type SettingsSource } from './settings.ts'
import { createTeamNotes } from './teamNotes.ts'

export interface OfficeOptions {
  readonly folder: string
  readonly isDemo: boolean
  /** SMTP address of a real mail account; null: the built-in post office. */
  readonly smtpUrl: string | null
  readonly smtpLimits?: SmtpLimits
  /** Where clients reach this house, for links in messages. */
  readonly publicUrl?: () => string
  /** Why nothing may go out, whatever the switch says; null: it may. */
  readonly sendingObstacle?: string | null
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
  readonly account: MailAccount
  /** Why nothing goes out, whatever the switch says; null: it does. */
  readonly sendingObstacle: string | null
  /** The machine's clock is right after all: what fell due by it is caught up with, as after the machine was off. */
  trustClock(): void
  /** Takes up the work: doubts what a killed process left, catches up, then keeps going. */
  begin(): Promise<void>
  /** Stops claiming, lets what is under way end, closes everything. */
  end(): Promise<void>
}

/** Leaves time for everything else to end within ten seconds. */
const drainDeadlineMs = 8000
const realTickMs = 500

export class OptionsError extends Error {}

function catchUpAfterDowntime(office: Office) {
  if (office.clock.kind !== 'real' || !office.settings.current()?.isSendingOn) return
  office.apply(catchUpEffects(office, office.clock.now()))
}

/** A copied or restored database must not send what the original may already have sent: it starts held back. */
function holdBackCopy({ commands, office }: Pick<RunningOffice, 'commands' | 'office'>) {
  if (!office.store.isCopy || !office.settings.current()?.isSendingOn) return
  commands.setSending(
    {
      id: `copy-${office.clock.now()}-${process.pid}`,
      personId: null,
      name: 'setSending',
      considered: unconsidered,
    },
    false,
  )
}

/** Other data about zones than the plans were made with: the future is planned anew. */
function noticeTimeData(office: Office) {
  const { statements } = office.store
  const settings = office.settings.current()
  if (!settings) return
  const { version } = settings.zones
  const known = statements.one('readMeta', { key: 'time data' })?.['value']
  if (known === version) return
  if (known !== undefined) planAllAnew(office)
  statements.run('writeMeta', { key: 'time data', value: version })
}

/** The settings, with the addresses of the links in messages. */
function settingsOf(store: Store, publicUrl: () => string, canSend: boolean): SettingsSource {
  let secret: string | null = null
  const tokenOf = (purpose: LinkPurpose, id: string) =>
    signedToken(purpose, id, (secret ??= secretOf({ store })))
  const links = {
    optOut: (clientId: string) => `${publicUrl()}/choose/${tokenOf('opt-out', clientId)}`,
    booking: (bookingId: string) => `${publicUrl()}/yours/${tokenOf('booking', bookingId)}`,
  }
  return createSettingsSource(store.statements, links, canSend)
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
    : createRealClock()
  const running = options.smtpUrl === null ? await startPostOffice(options.folder, options.onFault) : null
  const postOffice = running ? openPostOfficeFile(join(options.folder, 'postoffice.db')) : null
  const sendingObstacle = options.sendingObstacle ?? null
  const publicUrl = options.publicUrl ?? (() => 'http://127.0.0.1:4321')
  const office = createOffice({
    store,
    clock,
    settings: settingsOf(store, publicUrl, sendingObstacle === null),
    changes: createChanges(),
  })
  const { smtpUrl } = options
  const sender = smtpUrl
    ? createSmtpSender(accountAt(smtpUrl), { ...(options.smtpLimits ? { limits: options.smtpLimits } : {}) })
    : createSmtpSender(() => accountAt(running?.url() ?? ''), { limits: limitsOfPostOffice })
  const account = createMailAccount(sender, {
    onChange: () => {
      office.changes.publish(['sending', 'sends'])
      pump.soon()
    },
  })
  const dispatcher = createDispatcher(office, account, options.onFault)
  const notes = createTeamNotes(office, account, publicUrl)
  const pump: Pump = createPump(office, dispatcher, notes, options.onFault)
  const commands = createCommands(office, sendingObstacle)
  office.onCommand(() => pump.soon())
  let tick: NodeJS.Timeout | null = null
  return {
    office,
    commands,
    pump,
    postOffice,
    isDemo: options.isDemo,
    account,
    sendingObstacle,
    async begin() {
      dispatcher.doubtAbandoned()
      holdBackCopy({ commands, office })
      noticeTimeData(office)
      catchUpAfterDowntime(office)
      await pump.advance(clock.now())
      if (clock.kind !== 'real') return
      const watch = watchJumps(clock, () => office.changes.publish(['clock']))
      tick = setInterval(() => {
        watch()
        pump.soon()
      }, realTickMs)
    },
    trustClock() {
      clock.trustMachine()
      catchUpAfterDowntime(office)
      pump.soon()
    },
    async end() {
      if (tick) clearInterval(tick)
      pump.end()
      await office.end()
      await dispatcher.drain(drainDeadlineMs)
      await pump.settled()
      await running?.stop()
      postOffice?.close()
      store.close()
    },
  }
}
