import { domainOf } from '#core/model/values.ts'
import { randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import { accountSteps, type TriedStep } from '#core/model/mailAccount.ts'
import { Broken, Conversation, type AccountAddress, type SmtpLimits } from './conversation.ts'
import { signInSentence, unreachedSentence, unsafeSentence } from './lineWords.ts'
import { composeHouseMessage, type HouseMessage } from './houseMessage.ts'
import { answerOf, outcomeOfFault, type Outcome, type SmtpFault } from './whoseFault.ts'

/*
 * A mail account tried step by step, up to a copy to whoever asks: what each step came to, in plain words and in the
 * server's own.
 */

type StepName = (typeof accountSteps)[number]

const isDone: Readonly<Record<StepName, string>> = {
  reach: 'The server answers.',
  secure: 'The line is safe, and the server is who it says it is.',
  'sign in': 'It knows the user and the password.',
  sender: 'It takes messages from this sender.',
  copy: 'It took the copy. Look whether it has arrived, and whether it lies among the unwanted mail.',
}

interface Failure {
  readonly step: StepName
  readonly sentence: string
  readonly answer: string
}

const ports = 'Port 465 wants TLS from the first byte, 587 after the greeting.'

const answerTo = (fault: SmtpFault) => answerOf(fault.response ?? fault.message)

function whileOpening({ fault, stage }: Broken): Failure {
  const outcome = outcomeOfFault(fault, stage)
  const answer = answerTo(fault)
  if (outcome.kind === 'account' && outcome.what === 'unsafe') {
    return { step: 'secure', sentence: unsafeSentence(fault), answer }
  }
  const otherwise =
    fault.responseCode === undefined ? 'It ended the connection.' : 'It does not let us in: ask who runs it.'
  return { step: 'reach', sentence: unreachedSentence(fault, ports, otherwise), answer }
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
    return { step: 'sign in', sentence: signInSentence, answer: answerTo(fault.fault) } as const
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
