import { domainOf } from '#core/model/values.ts'
import { randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import { accountSteps, type TriedStep } from '#core/model/mailAccount.ts'
import { Broken, Conversation, type AccountAddress, type SmtpLimits } from './conversation.ts'
import { composeHouseMessage, type HouseMessage } from './houseMessage.ts'
import { answerOf, outcomeOfFault, type Outcome, type SmtpFault } from './whoseFault.ts'

/*
 * A mail account tried step by step, up to a copy to whoever asks: what each step came to, in plain words and in the
 * server's own.
 */

type StepName = TriedStep['step']

const isDone: Readonly<Record<StepName, string>> = {
  reach: 'The server answers.',
  secure: 'The line is safe, and the server is who it says it is.',
  'sign in': 'It knows the user and the password.',
  sender: 'It takes messages from this sender.',
  copy: 'It took the copy. Look whether it has arrived, and whether it lies among the unwanted mail.',
}

/** Why a certificate is not believed, by what the TLS library calls it. */
const certificateWords: readonly [RegExp, string][] = [
  [
    /SELF_SIGNED|UNABLE_TO_VERIFY|UNABLE_TO_GET_ISSUER/,
    'Nobody we know vouches for the server’s certificate: it may be another server in between.',
  ],
  [/CERT_HAS_EXPIRED/, 'The server’s certificate has expired: who runs it has to renew it.'],
  [/CERT_NOT_YET_VALID/, 'The server’s certificate is not valid yet: one of the two clocks is wrong.'],
  [/ALTNAME/, 'The server’s certificate is for another name: give the server by the name that stands in it.'],
  [
    /WRONG_VERSION|PACKET_LENGTH|UNKNOWN_PROTOCOL|UNSUPPORTED_PROTOCOL/,
    'Nothing there speaks TLS from the first byte: “TLS after the greeting” may be what this port wants.',
  ],
]

const reachWords: readonly [RegExp, string][] = [
  [/ENOTFOUND|EAI_AGAIN|EDNS/, 'There is no server of this name, or names cannot be looked up just now.'],
  [/ECONNREFUSED/, 'Nothing answers at this port.'],
  [/EHOSTUNREACH|ENETUNREACH/, 'There is no way to this server from here.'],
  [
    /ETIMEDOUT|timed? ?out|too long|never received/i,
    'It does not answer in time. Port 465 wants TLS from the first byte, 587 after the greeting.',
  ],
]

const found = (words: readonly [RegExp, string][], fault: SmtpFault, otherwise: string) => {
  const said = [fault.originalCode, fault.code, fault.message].filter(Boolean).join(' ')
  return words.find(([pattern]) => pattern.test(said))?.[1] ?? otherwise
}

interface Failure {
  readonly step: StepName
  readonly sentence: string
  readonly answer: string
}

const answerTo = (fault: SmtpFault) => answerOf(fault.response ?? fault.message)

function whileOpening({ fault, stage }: Broken): Failure {
  const outcome = outcomeOfFault(fault, stage)
  const answer = answerTo(fault)
  if (outcome.kind === 'account' && outcome.what === 'unsafe') {
    const otherwise = 'No safe line came about: the server offers no TLS here.'
    return { step: 'secure', sentence: found(certificateWords, fault, otherwise), answer }
  }
  const otherwise =
    fault.responseCode === undefined ? 'It ended the connection.' : 'It does not let us in: ask who runs it.'
  return { step: 'reach', sentence: found(reachWords, fault, otherwise), answer }
}

function whileSending(outcome: Exclude<Outcome, { kind: 'accepted' }>): Failure {
  const { answer } = outcome
  if (outcome.kind === 'account' && outcome.what === 'sign-in refused') {
    return { step: 'sign in', sentence: 'It wants a user and a password.', answer }
  }
  if (outcome.kind === 'account') {
    return {
      step: 'sender',
      sentence: 'It does not take messages from this sender: use an address that belongs to the account.',
      answer,
    }
  }
  const sentence =
    outcome.kind === 'in doubt'
      ? 'The connection was lost in the last moment: the copy may have gone.'
      : 'It did not take the copy.'
  return { step: 'copy', sentence, answer }
}

type Copy = Pick<HouseMessage, 'from' | 'to'>

function testCopy({ from, to }: Copy): Promise<Buffer> {
  const domain = domainOf(from.address)
  return composeHouseMessage({
    messageId: `<${randomUUID()}@${domain}>`,
    at: Date.now(),
    from,
    to,
    subject: `${from.name}: the mail account works`,
    text: `This message shows that ${from.name} can send through its mail account.\n`,
  })
}

/** How far it comes; null: all the way. */
async function firstFailure(conversation: Conversation, limits: SmtpLimits, copy: Copy) {
  const until = () => performance.now() + limits.greeting
  try {
    await conversation.connect(until())
  } catch (fault) {
    if (!(fault instanceof Broken)) throw fault
    return whileOpening(fault)
  }
  try {
    await conversation.signIn(until())
  } catch (fault) {
    if (!(fault instanceof Broken)) throw fault
    const sentence = 'It refuses the user or the password. Many servers want a password made for programs.'
    return { step: 'sign in', sentence, answer: answerTo(fault.fault) } as const
  }
  const source = await testCopy(copy)
  try {
    const envelope = { from: copy.from.address, to: copy.to.address }
    const body = Readable.from([source], { objectMode: false })
    await conversation.send(performance.now() + limits.whole, envelope, body, source.length)
    return null
  } catch (fault) {
    if (!(fault instanceof Broken)) throw fault
    const outcome = outcomeOfFault(fault.fault, fault.stage)
    return outcome.kind === 'accepted' ? null : whileSending(outcome)
  }
}

/** Tries an account, and says of each step what became of it. */
export async function tryAccount(
  address: AccountAddress,
  limits: SmtpLimits,
  copy: Copy,
): Promise<TriedStep[]> {
  const conversation = new Conversation(address, limits)
  const failure = await firstFailure(conversation, limits, copy).finally(() => conversation.close())
  const failedAt = failure === null ? accountSteps.length : accountSteps.indexOf(failure.step)
  const isNeeded = (step: StepName) =>
    (step !== 'sign in' || address.signIn !== null) &&
    (step !== 'secure' || address.isSecure || address.turnsToTls !== 'never')
  return accountSteps.map((step, index): TriedStep => {
    if (failure && index === failedAt) return { ...failure, step, outcome: 'failed' }
    if (!isNeeded(step)) return { step, outcome: 'not needed', sentence: '', answer: '' }
    if (index > failedAt) return { step, outcome: 'not tried', sentence: '', answer: '' }
    return { step, outcome: 'done', sentence: isDone[step], answer: '' }
  })
}
