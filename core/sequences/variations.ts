import type { TraceLine } from '../model/send.ts'
import { isMessage, type PlainStep } from '../model/step.ts'
import type { Variation } from '../model/variation.ts'

/** A step as it counts for somebody, since when its timing does, and what the trace says of it. */
export interface VariedStep {
  readonly step: PlainStep
  readonly timingSince: number
  readonly trace: readonly TraceLine[]
}

const fields = ['letterId', 'timing', 'recipients', 'needsApproval', 'isOff'] as const
type Field = (typeof fields)[number]

const fieldWords: Readonly<Record<Field, string>> = {
  letterId: 'letter',
  timing: 'timing',
  recipients: 'recipients',
  needsApproval: 'approval',
  isOff: 'being switched on or off',
}

function line(field: Field, { scope }: Variation): TraceLine {
  const whose = scope.of === 'client' ? 'this client' : 'the service'
  const sentence = `The ${fieldWords[field]} set for ${whose} counts, not that of the sequence.`
  return { rule: 'variation', before: null, after: null, code: `${scope.of} ${fieldWords[field]}`, sentence }
}

function withField(step: PlainStep, field: Field, from: Variation): PlainStep {
  switch (field) {
    case 'letterId':
      return step.kind === 'mail' && from.letterId !== null ? { ...step, letterId: from.letterId } : step
    case 'timing':
      return from.timing === null ? step : { ...step, ...from.timing }
    case 'recipients':
      return isMessage(step) && from.recipients !== null ? { ...step, recipients: from.recipients } : step
    case 'needsApproval':
      return from.needsApproval === null ? step : { ...step, needsApproval: from.needsApproval }
    case 'isOff':
      return from.isOff === null ? step : { ...step, isOff: from.isOff }
  }
}

/**
 * Whose rule counts: general, then the service's, then the client's, field by field; the most specific one wins,
 * never two.
 */
export function variedStep(
  step: PlainStep,
  sequenceId: string,
  serviceId: string | null,
  all: { readonly ofServices: readonly Variation[]; readonly ofClient: readonly Variation[] },
): VariedStep {
  if (all.ofServices.length === 0 && all.ofClient.length === 0) return { step, timingSince: 0, trace: [] }
  const isOfStep = (one: Variation) => one.sequenceId === sequenceId && one.stepId === step.id
  const ofService = all.ofServices.find(
    (one) => isOfStep(one) && one.scope.of === 'service' && one.scope.serviceId === serviceId,
  )
  const ofClient = all.ofClient.find(isOfStep)
  let varied: VariedStep = { step, timingSince: 0, trace: [] }
  for (const field of fields) {
    const from = [ofClient, ofService].find((one) => one !== undefined && one[field] !== null)
    if (!from) continue
    varied = {
      step: withField(varied.step, field, from),
      timingSince: field === 'timing' ? from.timingSetAt : varied.timingSince,
      trace: [...varied.trace, line(field, from)],
    }
  }
  return varied
}
