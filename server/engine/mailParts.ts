import { join } from 'node:path'
import type { Store } from '../db/database.ts'
import { createMailAccount } from '../mail/mailAccount.ts'
import { createMailAccounts, type MailAccounts } from '../mail/mailAccounts.ts'
import { createSmtpSender } from '../mail/smtpSender.ts'
import { openPostOfficeFile } from '../standins/postOffice/file.ts'
import { mailboxPassword } from '../standins/postOffice/mailboxes.ts'
import { startPostOffice } from '../standins/postOffice/start.ts'
import type { Application } from './application.ts'
import { createAnswerSending } from './incoming/answerSending.ts'
import { createIncomingMail } from './incoming/incomingMail.ts'
import { createMailboxReading, type ReadFrom } from './incoming/mailboxReading.ts'
import { createPump, type Pump } from './loop/pump.ts'
import { createTeamNotes } from './loop/teamNotes.ts'
import { createVisits } from './noticing/visits.ts'
import type { ApplicationOptions } from './runningApplication.ts'
import { createDispatcher } from './sending/dispatcher.ts'
import { createWays, type WaysSource } from './waysOut.ts'

/* What goes out and what comes in: the post office that came with the house, its mail accounts, its mailboxes. */

/** Who plays a client in the demo need not wait for what a program might ask for besides. */
const demoVisitMs = 500

/** The post office that came with it, and its mailboxes; null where a mail account was given at the start. */
export async function openPostOffice(options: ApplicationOptions) {
  const { folder, smtpUrl, onFault } = options
  if (smtpUrl !== null) return null
  const running = await (options.startPostOffice ?? startPostOffice)(folder, onFault)
  return { running, file: openPostOfficeFile(join(folder, 'postoffice.db')) }
}

export type OwnPostOffice = Awaited<ReturnType<typeof openPostOffice>>

export function waysOf(options: ApplicationOptions, store: Store, own: OwnPostOffice): WaysSource {
  return createWays(store, {
    smtpUrl: options.smtpUrl,
    smtpLimits: options.smtpLimits ?? null,
    publicUrl: options.givenPublicUrl ?? null,
    ownUrl: options.publicUrl ?? (() => 'http://127.0.0.1:4321'),
    postOfficeUrl: () => own?.running.url() ?? '',
    needsPublicUrl: options.needsPublicUrl ?? false,
  })
}

/** The main mail account and those beside it, as they are set up at any moment. */
function accountsOf({ changes, settings }: Application, ways: WaysSource, goOn: () => void): MailAccounts {
  const limits = () => ways.now().limits
  const onChange = () => {
    changes.publish(['sending', 'sends'])
    goOn()
  }
  const main = createMailAccount(
    createSmtpSender(() => ways.now().address(), { limits }),
    {
      onChange,
      perMinute: () => settings.current()?.business.allowance.perMinute ?? null,
    },
  )
  return createMailAccounts({ main, further: () => ways.now().further, limits, onChange })
}

/** In the demo answers to the address of the business lie in a mailbox of the post office. */
function ownMailbox({ settings }: Application, { running }: NonNullable<OwnPostOffice>): ReadFrom {
  const { business } = settings.required()
  const user = business.replyTo ?? business.senderAddress
  return {
    id: 'post office',
    name: user,
    isOwn: true,
    // It gets another port where it has to be started again.
    get address() {
      const signIn = { user, pass: mailboxPassword }
      const port = running.mailboxPort()
      return {
        host: '127.0.0.1',
        port,
        isSecure: false,
        turnsToTls: 'never',
        signIn,
        folder: 'INBOX',
      } as const
    },
  }
}

/** What goes out and what comes in, and the loop between them. */
export function mailOf(
  application: Application,
  ways: WaysSource,
  own: OwnPostOffice,
  { isDemo, onFault }: ApplicationOptions,
) {
  const accounts = accountsOf(application, ways, () => pump.soon())
  const dispatcher = createDispatcher(application, accounts, onFault)
  const notes = createTeamNotes(application, accounts.main, () => ways.now().publicUrl())
  const incoming = createIncomingMail({ application, onFault, onTakenUp: () => pump.soon() })
  const pump: Pump = createPump(application, dispatcher, notes, incoming, onFault)
  const answers = createAnswerSending({ application, accounts, onFault })
  const mailboxes = createMailboxReading({
    application,
    take: (source, way) => incoming.take(source, way),
    onFault,
    own: isDemo && own ? () => ownMailbox(application, own) : null,
  })
  application.onCommand(() => {
    pump.soon()
    answers.soon()
    mailboxes.renew()
  })
  const visits = createVisits({ application, onFault, ...(isDemo ? { waitMs: demoVisitMs } : {}) })
  return { accounts, dispatcher, incoming, pump, answers, mailboxes, visits }
}
