import { isBranch, isMessage, type PlainStep, type Step } from '../model/step.ts'
import { isBefore } from '../model/timing.ts'
import { usualLeadWords } from './lead.ts'
import { purposeDefaults } from './purposes.ts'
import { sentenceKeys, sentenceOf, type SentenceKey, type StepNames } from './sentence.ts'
import { spanWords } from './span.ts'
import { ifLateWords, ifMovedWords, senderWords, sendingHoursWords } from './stepWords.ts'

/** A rule of a step that its sentence does not mention, and what holds because of that. */
export interface Unsaid {
  readonly key: SentenceKey
  readonly text: string
}

function usefulWords({ purpose }: PlainStep): string {
  const { usefulFor } = purposeDefaults[purpose]
  if (usefulFor === null) return 'useful without a limit of its own'
  return usefulFor === 'that day' ? 'useful that day' : `useful for ${spanWords(usefulFor)}`
}

/** What holds where the sentence of a step is silent; null: it does not apply to this step, or is always said. */
const silent: Readonly<Record<SentenceKey, (step: PlainStep) => string | null>> = {
  when: () => null,
  what: () => null,
  to: () => null,
  approval: () => null,
  days: () => 'on any day',
  from: (step) => (isMessage(step) ? `from ${senderWords[step.sender]}` : null),
  repeat: () => 'only once',
  'only if': () => 'in any case',
  'sending hours': ({ purpose }) => {
    const { sendingHours } = purposeDefaults[purpose]
    return sendingHours === 'any day' ? 'on its day, within waking hours' : sendingHoursWords[sendingHours]
  },
  'if late': ({ purpose }) => ifLateWords[purposeDefaults[purpose].ifLate],
  'if moved': ({ purpose }) => ifMovedWords[purposeDefaults[purpose].ifMoved],
  'useful for': usefulWords,
  lead: (step) => (isBefore(step.timing) ? usualLeadWords(step) : null),
  'on or off': () => 'switched on',
}

/**
 * All that holds for a step without being said in its sentence, in words; with the one that is being changed, which its
 * sentence may say by now.
 */
export function unsaidOf(
  step: Step,
  names: StepNames,
  changing: SentenceKey | null = null,
): readonly Unsaid[] {
  if (isBranch(step)) return []
  const said = new Map(sentenceOf(step, names).map(({ key, text }) => [key, text]))
  return sentenceKeys.flatMap((key) => {
    const text = said.has(key) ? (key === changing ? said.get(key) : null) : silent[key](step)
    return text == null ? [] : [{ key, text }]
  })
}
