import type { Send } from '../../model/send.ts'
import { canTurn, mendableStates } from '../../model/sendState.ts'
import type { Run } from '../../model/sequence.ts'
import { isMessage, stepTraits, type PlainStep } from '../../model/step.ts'
import { firstPass, planRun } from '../../planning/planRun.ts'
import { conditionFacts, runFacts, type RunFacts, recipientFacts } from '../../planning/runFacts.ts'
import { versionOf, type Slice } from '../../planning/slice.ts'
import { recipientsOfStep } from '../../sequences/recipients.ts'
import { findStep } from '../../sequences/steps.ts'
import { variedStep } from '../../sequences/variations.ts'
import { evaluate } from '../../conditions/evaluate.ts'
import { checkAtSending } from '../atSending/checkAtSending.ts'
import { remedyWords, type Remedy } from './remedies.ts'
import { byCondition, type WhyNot } from './whyNot.ts'

/** How what a rule dropped could come all the same, by the code of its reason. */
const changeByReason: Readonly<Record<string, string>> = {
  late: 'It would have to be booked earlier, or the step would have to send late ones now.',
  'no open moment': 'The sending hours would have to be open before its last useful moment.',
  'too late': 'Its time would have to lie before its last useful moment.',
  burst: 'The others would have to lie in the future.',
  'two reminders': 'The two reminders would have to lie more than four hours apart.',
  'crowded out': 'The client would have to get fewer other messages.',
  branch: 'The branch before it would have to go the other way.',
  'no value yet': 'What it hangs on would have to have a value.',
  'previous step': 'The step before would have to be done.',
  moved: 'It is planned for the new time instead.',
  'no consent': 'The client would have to take promotional mail.',
  'missing field': 'The missing value would have to be filled in.',
  stale: 'It would have had to be approved before its last chance.',
  'not switched on': 'Evening letters would have to be switched on for this enquiry.',
  'nothing ticked': 'A line for the client would have to be ticked.',
}

/** What would help by the code of a reason, where somebody can bring it about. */
function remedyFor(code: string, send: FoundSend, { facts }: Slice, now: number): Remedy | null {
  const contact = facts.client.contacts.find(({ id }) => id === send.recipientId)
  switch (code) {
    case 'no address':
      return contact
        ? {
            kind: 'give address',
            contactId: contact.id,
            of: stepTraits[send.stepKind].goesTo === 'phone' ? 'telephone' : 'mail',
          }
        : null
    case 'no consent': {
      const subject = { kind: 'client', id: facts.client.id } as const
      const field = 'client.takes promotional mail'
      return { kind: 'facts', subject, changes: [{ field, to: true, has: true }] }
    }
    case 'unread letter':
      return send.letterId === null ? null : { kind: 'read letter', letterId: send.letterId }
    default: {
      const isOpen = send.notAfter === null || now <= send.notAfter
      const canGo = send.id !== null && canTurn(send.state, 'ready') && mendableStates.includes(send.state)
      return canGo && isOpen ? { kind: 'send now', sendId: send.id } : null
    }
  }
}

/** A message that is stored, or one that was only planned. */
type FoundSend = Pick<Send, 'state' | 'reason' | 'recipientId' | 'stepKind' | 'letterId' | 'notAfter'> & {
  readonly id: string | null
}

function ofSend(send: FoundSend, slice: Slice, now: number): WhyNot {
  const code = send.reason?.code ?? send.state
  const remedy = remedyFor(code, send, slice, now)
  const change =
    changeByReason[code] ?? (remedy ? remedyWords(remedy, slice.settings) : 'Nobody can change that now.')
  return { code, sentence: send.reason?.sentence ?? `It is ${send.state}.`, change, remedy }
}

function ofStep(step: PlainStep, of: RunFacts, now: number): WhyNot | null {
  const { run } = of
  if (step.isOff) {
    const remedy = { kind: 'switch step on', sequenceId: run.sequenceId, stepId: step.id } as const
    return { code: 'off', sentence: 'This step is switched off here.', change: 'Switch it on.', remedy }
  }
  const recipients = recipientsOfStep(step, recipientFacts(of))
  if (isMessage(step) && recipients.length === 0) {
    return {
      code: 'no recipient',
      sentence: 'There is nobody of the kind this step writes to.',
      change: 'Add such a contact, or choose other recipients.',
      remedy: null,
    }
  }
  const asked = conditionFacts(of, now)
  if (step.onlyIf === null || evaluate(step.onlyIf, asked).holds) return null
  return byCondition(step.onlyIf, asked, run.subject)
}

/** What would stop a message that is on its way, were it to go by the facts of now. */
function atSending(send: Send, slice: Slice, now: number): WhyNot | null {
  const verdict = checkAtSending(send, slice, Math.max(now, send.dueAt ?? now))
  if (verdict.goes || verdict.state === null || verdict.state === 'waiting') return null
  // What blocked it has been mended: it goes once a person sends it.
  return ofSend({ ...send, state: verdict.state, reason: verdict.reason, id: null }, slice, now)
}

/** Blocked for something that has been mended since: it waits for a person to send it. */
function isMended(send: Send, slice: Slice, now: number): boolean {
  if (send.state !== 'blocked') return false
  const verdict = checkAtSending({ ...send, state: 'ready' }, slice, Math.max(now, send.dueAt ?? now))
  return verdict.goes
}

const comingStates: readonly Send['state'][] = ['waiting', 'approved', 'ready', 'sending']

/**
 * Why a step of a run sends nothing: the first thing in its way, the fact, and the smallest change that would remedy it.
 * Null: it has gone or will.
 */
export function whyNoSend(run: Run, stepId: string, slice: Slice, now: number): WhyNot | null {
  const { settings, facts } = slice
  const of = runFacts(run, slice)
  const general = findStep(versionOf(settings, run.sequenceId, run.version), stepId)
  if (!of || !general) {
    return {
      code: 'no step',
      sentence: 'There is no such step in its version.',
      change: 'Move it to another version.',
      remedy: null,
    }
  }
  const own = facts.sends.filter((send) => send.runId === run.id && send.stepId === stepId)
  if (own.some(({ state }) => state === 'sent')) return null
  if (run.state !== 'running') {
    const sentence = run.stoppedReason ?? 'The sequence has stopped.'
    return { code: 'stopped', sentence, change: 'The sequence would have to start again.', remedy: null }
  }
  if (run.passedOver.includes(stepId)) {
    const sentence = 'It came in before what this run had already done.'
    return { code: 'passed over', sentence, change: 'A new run would have it.', remedy: null }
  }
  const { step } = variedStep(general, run.sequenceId, of.serviceId, {
    ofServices: settings.variations,
    ofClient: facts.variations,
  })
  const stored = own.find(({ state }) => comingStates.includes(state))
  const inTheWay = ofStep(step, of, now)
  if (inTheWay) return inTheWay
  if (stored) return atSending(stored, slice, now)
  const [latest] = own.toSorted((one, other) => other.stateSince - one.stateSince)
  if (latest && isMended(latest, slice, now)) {
    const sentence = 'What blocked it has been mended; it waits for a person to send it.'
    return ofSend({ ...latest, reason: { code: 'mended', sentence } }, slice, now)
  }
  if (latest) return ofSend(latest, slice, now)
  const planned = planRun(run, slice, firstPass(now)).planned.find((one) => one.step.id === stepId)
  const reason = planned?.dropped ?? planned?.skipped ?? planned?.awaits
  if (!planned || !reason) return null
  const { recipient, notAfter } = planned
  const letterId = planned.step.kind === 'mail' ? planned.step.letterId : null
  const found = {
    id: null,
    state: 'dropped',
    recipientId: recipient.id,
    stepKind: planned.step.kind,
  } as const
  return ofSend({ ...found, letterId, notAfter, reason }, slice, now)
}
