import { conditionWords, type ConditionNames } from '../conditions/words.ts'
import { isBranch, isMessage, type PlainStep, type Step } from '../model/step.ts'
import { dayWords } from './dayWords.ts'
import { spanWords } from './span.ts'
import {
  ifLateWords,
  ifMovedWords,
  recipientsWords,
  repeatWords,
  senderWords,
  sendingHoursWords,
  usefulWords,
  whenWords,
} from './stepWords.ts'

/** What of a step one can take hold of in its sentence. */
export const sentenceKeys = [
  'when',
  'days',
  'what',
  'to',
  'from',
  'repeat',
  'approval',
  'only if',
  'sending hours',
  'if late',
  'if moved',
  'useful for',
  'lead',
  'on or off',
] as const
export type SentenceKey = (typeof sentenceKeys)[number]

/** A piece of a sentence: words between, or a part that can be changed. */
export interface SentencePart {
  readonly key: SentenceKey | null
  readonly text: string
}

/** Names of what steps mention by id. */
export interface StepNames extends ConditionNames {
  /** What a step does, in a few words: the letter's name, the task. */
  readonly action: (step: PlainStep) => string
  readonly personName: (personId: string) => string
}

const capital = (text: string) => `${text.slice(0, 1).toUpperCase()}${text.slice(1)}`

const between = (text: string): SentencePart => ({ key: null, text })

const verbs: Readonly<Record<PlainStep['kind'], string>> = {
  mail: 'send',
  'text message': 'send as a text message',
  'note to staff': 'send a note',
  task: 'make a task',
  tag: 'do this',
  stage: 'do this',
  status: 'do this',
  'date stamp': 'do this',
  list: 'do this',
  sequence: 'do this',
  'web call': 'do this',
}

const approvalWords = (step: PlainStep) => (step.needsApproval ? 'after approval' : 'by itself')

/** Rules of a step that differ from those of its purpose: only what was changed is said. */
function changedRules(step: PlainStep): readonly SentencePart[] {
  const parts: (SentencePart | null)[] = [
    step.sendingHours && { key: 'sending hours', text: sendingHoursWords[step.sendingHours] },
    step.ifLate && { key: 'if late', text: ifLateWords[step.ifLate] },
    step.ifMoved && { key: 'if moved', text: ifMovedWords[step.ifMoved] },
    step.usefulFor && { key: 'useful for', text: usefulWords(step.usefulFor) },
    step.lead && { key: 'lead', text: `gone ${spanWords(step.lead)} before at the latest` },
  ]
  return parts.filter((part) => part !== null).flatMap((part) => [between('; '), part])
}

function message(step: PlainStep, { personName }: StepNames): readonly SentencePart[] {
  if (!isMessage(step)) return []
  const words = recipientsWords(step.recipients, personName)
  const to: SentencePart[] = [between(' to '), { key: 'to', text: words }]
  return step.sender === 'business'
    ? to
    : [...to, between(' from '), { key: 'from', text: senderWords[step.sender] }]
}

function plainSentence(step: PlainStep, names: StepNames): readonly SentencePart[] {
  return [
    { key: 'when', text: capital(whenWords(step.timing)) },
    ...(step.onlyDays
      ? [between(', '), { key: 'days', text: dayWords(step.onlyDays) } as const, between(',')]
      : []),
    between(` ${verbs[step.kind]} `),
    { key: 'what', text: names.action(step) },
    ...message(step, names),
    ...(step.repeat
      ? [between(', '), { key: 'repeat', text: repeatWords(step.repeat, names) } as const]
      : []),
    between(', '),
    { key: 'approval', text: approvalWords(step) },
    ...(step.onlyIf
      ? [between(', only if '), { key: 'only if', text: conditionWords(step.onlyIf, names) } as const]
      : []),
    ...changedRules(step),
    ...(step.isOff ? [between('; '), { key: 'on or off', text: 'switched off' } as const] : []),
    between('.'),
  ]
}

/**
 * A step as a sentence in pieces. What its purpose settles by itself stays unsaid until it is changed.
 */
export function sentenceOf(step: Step, names: StepNames): readonly SentencePart[] {
  if (!isBranch(step)) return plainSentence(step, names)
  return [
    between('As soon as '),
    { key: 'only if', text: conditionWords(step.condition, names) },
    between(' one way is taken; otherwise, '),
    { key: 'when', text: whenWords(step.timing) },
    between(', the other.'),
  ]
}

export function sentenceText(parts: readonly SentencePart[]): string {
  return parts.map(({ text }) => text).join('')
}
