import { mailboxSteps, type TriedStep } from '#core/model/mailAccount.ts'
import { signInSentence, unreachedSentence, unsafeSentence } from '../lineWords.ts'
import { MailboxFault, openMailbox, type MailboxAddress, type MailboxFaultKind } from './mailboxClient.ts'

type StepName = (typeof mailboxSteps)[number]

const stepOf: Readonly<Record<MailboxFaultKind, StepName>> = {
  away: 'reach',
  unsafe: 'secure',
  'sign-in refused': 'sign in',
  'no folder': 'folder',
}

const ports = 'Port 993 wants TLS from the first byte, 143 after the greeting.'

const sentenceOf: Readonly<Record<MailboxFaultKind, (fault: MailboxFault['fault']) => string>> = {
  away: (fault) => unreachedSentence(fault, ports, 'It ended the connection: ask who runs it.'),
  unsafe: (fault) => unsafeSentence(fault),
  'sign-in refused': () => signInSentence,
  'no folder': () => 'There is no such folder. What comes in lies in INBOX, more often than not.',
}

const isDone: Readonly<Record<StepName, string>> = {
  reach: 'The server answers.',
  secure: 'The line is safe, and the server is who it says it is.',
  'sign in': 'It knows the user and the password.',
  folder: '',
}

const folderSentence = (exists: number, isTold: boolean) =>
  [
    exists === 1 ? 'One mail lies in it.' : `${exists} mails lie in it.`,
    'They stay as they are, and nothing follows from them.',
    isTold
      ? 'The server says by itself when something comes.'
      : 'The server does not say when something comes: it is looked into every minute.',
  ].join(' ')

/** Tries a mailbox, and says of each step what became of it. */
export async function tryMailbox(address: MailboxAddress): Promise<TriedStep[]> {
  const outcome = await openMailbox(address).catch((fault: unknown) => {
    if (fault instanceof MailboxFault) return fault
    throw fault
  })
  const failedAt =
    outcome instanceof MailboxFault ? mailboxSteps.indexOf(stepOf[outcome.what]) : mailboxSteps.length
  if (!(outcome instanceof MailboxFault)) outcome.close()
  const isSafe = address.isSecure || address.turnsToTls !== 'never'
  return mailboxSteps.map((step, index): TriedStep => {
    if (outcome instanceof MailboxFault && index === failedAt) {
      const sentence = sentenceOf[outcome.what](outcome.fault)
      return { step, outcome: 'failed', sentence, answer: outcome.answer }
    }
    if (step === 'secure' && !isSafe) return { step, outcome: 'not needed', sentence: '', answer: '' }
    if (index > failedAt) return { step, outcome: 'not tried', sentence: '', answer: '' }
    const sentence =
      step === 'folder' && !(outcome instanceof MailboxFault)
        ? folderSentence(outcome.exists, outcome.isTold)
        : isDone[step]
    return { step, outcome: 'done', sentence, answer: '' }
  })
}
