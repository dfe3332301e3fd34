import { clientActPaths, type ClientAct } from '#core/model/clientAct.ts'
import { randomInt } from 'node:crypto'
import { openStore, type Store } from '../db/database.ts'
import { signedToken, signingKey, type LinkPurpose } from '../mail/signedLinks.ts'
import type { SmtpLimits } from '../mail/conversation.ts'
import type { MailAccounts } from '../mail/mailAccounts.ts'
import { signedAddress } from '../mail/incoming/signedAddress.ts'
import type { PostOfficeFile } from '../standins/postOffice/file.ts'
import { startPayments, type RunningPayments } from '../standins/payments/start.ts'
import type { startPostOffice } from '../standins/postOffice/start.ts'
import { createBackupKeeping, type BackupKeeping } from './loop/backupKeeping.ts'
import { createChanges } from './changes.ts'
import { createDemoClock, createRealClock, demoStartAt } from './loop/clock.ts'
import { catchUpEffects, watchJumps } from './loop/clockJump.ts'
import { createCommands, type Commands } from './commands/commands.ts'
import type { MailboxReading } from './incoming/mailboxReading.ts'
import type { IncomingMail } from './incoming/incomingMail.ts'
import type { AnswerSending } from './incoming/answerSending.ts'
import { openListener } from './incoming/openListener.ts'
import type { RunningListener } from '../mail/incoming/listener.ts'
import { linkId } from './noticing/noticedMessage.ts'
import type { Visits } from './noticing/visits.ts'
import type { Dispatcher } from './sending/dispatcher.ts'
import { callOf, createApplication, type Application } from './application.ts'
import type { Pump, PumpFault } from './loop/pump.ts'
import { planAllAnew } from './commands/sequenceCommands.ts'
import { createSettingsSource, type SettingsSource } from './settings.ts'
import { mailOf, openPostOffice, waysOf, type OwnPostOffice } from './mailParts.ts'
import { withoutPassword, type Ways, type WaysSource } from './waysOut.ts'
import { createSourceKeeping, type SourceKeeping } from './loop/sourceKeeping.ts'
import { openActRecord, type ActRecord } from '../record/actRecord.ts'

export interface ApplicationOptions {
  readonly folder: string
  readonly isDemo: boolean
  /** SMTP address of a real mail account; null: the built-in post office. */
  readonly smtpUrl: string | null
  readonly smtpLimits?: SmtpLimits
  /** How the built-in post office is started; where nothing is said, as a process of its own. */
  readonly startPostOffice?: typeof startPostOffice
  /** The same for the page for paying of the demo. */
  readonly startPayments?: typeof startPayments
  /** Whether web calls may lead to this machine and its network. */
  readonly allowsOwnNetwork?: boolean
  /** Where mail that comes in is handed over by SMTP on this machine; null: by nobody. 0: anywhere. */
  readonly incomingPort?: number | null
  /** The address of a proxy in front, which says whom it speaks for. */
  readonly proxy?: string | null
  /** Where the house is by itself, for links in messages until it is said where clients reach it. */
  readonly publicUrl?: () => string
  /** Where clients reach it, as it was said at the start; null: that is set up in it. */
  readonly givenPublicUrl?: string | null
  /** Whether real messages wait until it is said where clients reach the house. */
  readonly needsPublicUrl?: boolean
  /** Where a backup a day is put; where nothing is said, none is taken. */
  readonly backupFolder?: string
  /** Only who knows these can read the backups; null: they are not sealed. */
  readonly backupWords?: string | null
  /** Where the demo's clock stands in a new database. */
  readonly clockStartsAt?: number
  readonly onFault: PumpFault
}

/** Everything that works together behind the routes. */
export interface RunningApplication {
  readonly application: Application
  readonly commands: Commands
  readonly pump: Pump
  /** Null where a mail account was given at the start. */
  readonly postOffice: PostOfficeFile | null
  readonly isDemo: boolean
  /** The page for paying that came with it; null: invoices are paid elsewhere. */
  readonly payments: RunningPayments | null
  /** The address of a proxy in front; null: there is none. */
  readonly proxy: string | null
  readonly accounts: MailAccounts
  readonly incoming: IncomingMail
  readonly answers: AnswerSending
  /** What clients open and follow. */
  readonly visits: Visits
  /** Where mail that comes in is handed over; null: nowhere. */
  readonly listener: RunningListener | null
  /** The mailboxes that are read. */
  readonly mailboxes: MailboxReading
  /** Where mail is handed in at the built-in post office; null: there is none. */
  readonly postOfficePort: () => number | null
  /** Null: none are taken. */
  readonly backups: BackupKeeping | null
  /** Who did what. */
  readonly record: ActRecord
  /** Where clients reach this house. */
  readonly publicUrl: () => string
  /** Who sets an empty house up has to know it: it is told to whoever started it, and to nobody else. */
  readonly firstRunWord: string
  /** How messages go out just now. */
  readonly ways: () => Ways
  /** Told what is thrown beside everything else. */
  readonly onFault: PumpFault
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

function catchUpAfterDowntime(application: Application) {
  if (application.clock.kind !== 'real' || !application.settings.current()?.isSendingOn) return
  application.apply(catchUpEffects(application, application.clock.now()))
}

const letters = 'abcdefghjkmnpqrstuvwxyz23456789'
/** Ten letters and digits that cannot be taken for each other. */
const newWord = () => Array.from({ length: 10 }, () => letters[randomInt(letters.length)]).join('')

/** A copied or restored database must not send what the original may already have sent: it starts held back. */
function holdBackCopy({ commands, application }: Pick<RunningApplication, 'commands' | 'application'>) {
  if (!application.store.isCopy || !application.settings.current()?.isSendingOn) return
  commands.setSending(callOf('setSending', `copy-${application.clock.now()}-${process.pid}`), false)
}

/** Other data about zones than the plans were made with: the future is planned anew. */
function noticeTimeData(application: Application) {
  const { statements } = application.store
  const settings = application.settings.current()
  if (!settings) return
  const { version } = settings.zones
  const known = statements.one('readMeta', { key: 'time data' })?.['value']
  if (known === version) return
  if (known !== undefined) planAllAnew(application)
  statements.run('writeMeta', { key: 'time data', value: version })
}

/** The settings, with the addresses of the links in messages. */
function settingsOf(store: Store, ways: WaysSource): SettingsSource {
  const publicUrl = () => ways.now().publicUrl()
  const tokenOf = (purpose: LinkPurpose, id: string) => signedToken(purpose, id, store.keys)
  const clientLinks = {
    optOut: (clientId: string) => `${publicUrl()}/choose/${tokenOf('opt-out', clientId)}`,
    booking: (bookingId: string) => `${publicUrl()}/yours/${tokenOf('booking', bookingId)}`,
    act: (act: ClientAct, bookingId: string) =>
      `${publicUrl()}/yours/${tokenOf(act, bookingId)}/${clientActPaths[act]}`,
    all: (clientId: string) => `${publicUrl()}/all/${tokenOf('all bookings', clientId)}`,
    pay: (invoiceId: string) => `${publicUrl()}/pay/${tokenOf('pay', invoiceId)}`,
    sign: (subjectId: string, documentId: string) =>
      `${publicUrl()}/sign/${tokenOf('sign', signingKey(subjectId, documentId))}`,
    followed: (sendId: string, key: string) =>
      `${publicUrl()}/to/${tokenOf('followed link', linkId(sendId, key))}`,
    opened: (sendId: string) => `${publicUrl()}/seen/${tokenOf('opened', sendId)}`,
  }
  const sendingWays = () => {
    const { obstacle, isReal, further } = ways.now()
    return { canSend: obstacle === null, isRealMail: isReal, mailAccounts: further.map(withoutPassword) }
  }
  const markAnswers = (address: string, sendId: string) => signedAddress(address, sendId, store.keys)
  const source = createSettingsSource(store.statements, sendingWays, { clientLinks, markAnswers })
  return {
    ...source,
    forget() {
      ways.forget()
      source.forget()
    },
  }
}

/** The demo takes answers anywhere; a business where it was said. */
const listeningPort = ({ incomingPort, isDemo, smtpUrl }: ApplicationOptions) =>
  incomingPort ?? (isDemo && smtpUrl === null ? 0 : null)

interface Running {
  readonly backups: BackupKeeping | null
  readonly record: ActRecord
  readonly keeping: SourceKeeping
  readonly application: Application
  readonly commands: Commands
  readonly pump: Pump
  readonly dispatcher: Dispatcher
  readonly incoming: IncomingMail
  readonly answers: AnswerSending
  readonly visits: Visits
  readonly mailboxes: MailboxReading
  readonly listener: RunningListener | null
  readonly own: OwnPostOffice
  readonly payments: RunningPayments | null
}

/** How it is taken up, goes on, and ends. */
function lifeOf(running: Running) {
  const { application, commands, pump, dispatcher, own, payments, keeping, backups, record } = running
  const { answers, incoming, listener, mailboxes, visits } = running
  const { clock, changes, store } = application
  let tick: NodeJS.Timeout | null = null
  return {
    async begin() {
      dispatcher.doubtAbandoned()
      answers.doubtAbandoned()
      holdBackCopy({ commands, application })
      noticeTimeData(application)
      // What came in before it ended comes first: it may stop what has fallen due since.
      incoming.soon()
      mailboxes.renew()
      visits.begin()
      await incoming.settled()
      catchUpAfterDowntime(application)
      await pump.advance(clock.now())
      answers.soon()
      keeping.begin()
      backups?.begin()
      if (clock.kind !== 'real') return
      const watch = watchJumps(clock, () => changes.publish(['clock']))
      tick = setInterval(() => {
        watch()
        pump.soon()
      }, realTickMs)
    },
    trustClock() {
      clock.trustMachine()
      catchUpAfterDowntime(application)
      pump.soon()
    },
    async end() {
      if (tick) clearInterval(tick)
      pump.end()
      await listener?.close()
      await mailboxes.end()
      await visits.end()
      await incoming.end()
      await answers.end()
      await keeping.end()
      await backups?.end()
      await application.end()
      await dispatcher.drain(drainDeadlineMs)
      await pump.settled()
      await own?.running.stop()
      await payments?.stop()
      own?.file.close()
      record.close()
      store.close()
    },
  }
}

function backupsOf(
  { backupFolder: folder, backupWords: words = null }: ApplicationOptions,
  application: Application,
) {
  const { store, changes } = application
  return folder === undefined ? null : createBackupKeeping({ file: store.file, folder, changes, words })
}

export async function openApplication(options: ApplicationOptions): Promise<RunningApplication> {
  if (options.isDemo && options.smtpUrl !== null) {
    throw new OptionsError(
      'The demo with its movable clock works only with the built-in post office, never with a real mail account.',
    )
  }
  const store = openStore(options.folder)
  const clock = options.isDemo
    ? createDemoClock(store.statements, options.clockStartsAt ?? demoStartAt)
    : createRealClock()
  const own = await openPostOffice(options)
  const payments = options.isDemo
    ? await (options.startPayments ?? startPayments)(store.keys.payments, options.onFault)
    : null
  const record = openActRecord(options.folder, options.onFault)
  const ways = waysOf(options, store, own)
  const publicUrl = () => ways.now().publicUrl()
  const application = createApplication({
    store,
    clock,
    settings: settingsOf(store, ways),
    changes: createChanges(),
    allowsOwnNetwork: options.allowsOwnNetwork ?? false,
  })
  const mail = mailOf(application, ways, own, options)
  const { accounts, incoming, answers, pump, mailboxes, visits } = mail
  const commands = createCommands(application, () => ways.now().obstacle)
  const port = listeningPort(options)
  const listener = await openListener({ application, incoming, port, onFault: options.onFault })
  const keeping = createSourceKeeping(application, options.onFault)
  const backups = backupsOf(options, application)
  return {
    application,
    commands,
    pump,
    postOffice: own?.file ?? null,
    isDemo: options.isDemo,
    payments,
    proxy: options.proxy ?? null,
    accounts,
    incoming,
    answers,
    listener,
    mailboxes,
    visits,
    postOfficePort: () => own?.running.port() ?? null,
    backups,
    record,
    publicUrl,
    firstRunWord: newWord(),
    ways: () => ways.now(),
    onFault: options.onFault,
    ...lifeOf({ ...mail, application, commands, listener, own, payments, keeping, backups, record }),
  }
}
