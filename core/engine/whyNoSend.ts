import type { Send } from '../model/send.ts'
import type { Run } from '../model/sequence.ts'
import { isMessage, type PlainStep } from '../model/step.ts'
import { planRun } from '../planning/planRun.ts'
import { conditionFacts } from '../planning/repeat.ts'
import { runFacts, type RunFacts } from '../planning/runFacts.ts'
import { versionOf, type Slice } from '../planning/slice.ts'
import { recipientsOfStep } from '../sequences/recipients.ts'
import { findStep } from '../sequences/steps.ts'
import { variedStep } from '../sequences/variations.ts'
import { byCondition, type WhyNot } from './whyNot.ts'
import { evaluate } from '../conditions/evaluate.ts'

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
  'no address': 'The recipient would need an address.',
  'no consent': 'The client would have to take promotional mail.',
  'missing field': 'The missing value would have to be filled in.',
  stale: 'It would have to be approved before its last chance.',
  missed: 'A person can send it now.',
  'not switched on': 'Evening letters would have to be switched on for this enquiry.',
  'nothing ticked': 'A line for the client would have to be ticked.',
}

function ofSend({ state, reason }: Pick<Send, 'state' | 'reason'>): WhyNot {
  const code = reason?.code ?? state
  return {
    code,
    sentence: reason?.sentence ?? `It is ${state}.`,
    change: changeByReason[code] ?? 'A person would have to take it up again.',
  }
}

function ofStep(step: PlainStep, of: RunFacts, now: number): WhyNot | null {
  if (step.isOff) {
    return { code: 'off', sentence: 'This step is switched off here.', change: 'Switch it on.' }
  }
  const { settings, client, personInCharge } = of
  const { business, people } = settings
  const recipients = recipientsOfStep(step, { client, business, people, personInCharge })
  if (isMessage(step) && recipients.length === 0) {
    return {
      code: 'no recipient',
      sentence: 'There is nobody of the kind this step writes to.',
      change: 'Add such a contact, or choose other recipients.',
    }
  }
  const asked = conditionFacts(of, now)
  if (step.onlyIf === null || evaluate(step.onlyIf, asked).holds) return null
  return byCondition(step.onlyIf, asked)
}

const comingStates: readonly Send['state'][] = ['waiting', 'approved', 'ready', 'sending', 'sent', 'bounced']

/**
 * Why a step of a run sends nothing: the first thing in its way, the fact, and the smallest change that would flip it.
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
    }
  }
  const own = facts.sends.filter((send) => send.runId === run.id && send.stepId === stepId)
  if (own.some(({ state }) => state === 'sent' || state === 'bounced')) return null
  if (run.state !== 'running') {
    const sentence = run.stoppedReason ?? 'The sequence has stopped.'
    return { code: 'stopped', sentence, change: 'The sequence would have to start again.' }
  }
  if (run.passedOver.includes(stepId)) {
    const sentence = 'It came in before what this run had already done.'
    return { code: 'passed over', sentence, change: 'A new run would have it.' }
  }
  const { step } = variedStep(general, run.sequenceId, of.serviceId, {
    ofServices: settings.variations,
    ofClient: facts.variations,
  })
  const stored = own.find(({ state }) => comingStates.includes(state))
  const inTheWay = ofStep(step, of, now)
  if (inTheWay) return inTheWay
  if (stored) return null
  const [latest] = own.toSorted((one, other) => other.stateSince - one.stateSince)
  if (latest) return ofSend(latest)
  const planned = planRun(run, slice, now).planned.find((one) => one.step.id === stepId)
  const reason = planned?.dropped ?? planned?.skipped ?? planned?.awaits
  return reason ? ofSend({ state: 'dropped', reason }) : null
}
