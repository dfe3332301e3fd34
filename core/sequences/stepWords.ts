import { conditionWords, type ConditionNames } from '../conditions/words.ts'
import type { MessageStep, PlainStep, RecipientRule } from '../model/step.ts'
import { yearlyOffset, type Repeat, type Timing } from '../model/timing.ts'
import { anchorWords } from './anchorWords.ts'
import { spanWords } from './span.ts'

const atTimeWords = (atTime: string | null) => (atTime === null ? '' : `, at ${atTime}`)

/** When a step goes: `3 days before the start of the booking, at 18:00`. */
export function whenWords(timing: Timing): string {
  switch (timing.kind) {
    case 'at once':
      return 'at once'
    case 'elapsed':
      return timing.amount === 0
        ? `at ${anchorWords(timing.anchor)}`
        : `${spanWords(timing)} ${timing.direction} ${anchorWords(timing.anchor)}`
    case 'calendar': {
      const at = timing.atTime === null ? ', at the same time of day' : atTimeWords(timing.atTime)
      return timing.amount === 0
        ? `on the day of ${anchorWords(timing.anchor)}${at}`
        : `${spanWords(timing)} ${timing.direction} ${anchorWords(timing.anchor)}${at}`
    }
    case 'after previous':
      return timing.amount === 0
        ? `right after the step before${atTimeWords(timing.atTime)}`
        : `${spanWords(timing)} after the step before${atTimeWords(timing.atTime)}`
    case 'yearly': {
      const day = `“${timing.label}”`
      const offset = yearlyOffset(timing)
      const when =
        offset.amount === 0
          ? `every year on ${day}`
          : `every year ${spanWords(offset)} ${offset.direction} ${day}`
      return `${when}, at ${timing.atTime}`
    }
    case 'evening':
      return `each evening at ${timing.atTime} when something was ticked`
  }
}

type PersonName = (personId: string) => string

function recipientWords(rule: RecipientRule, personName: PersonName): string {
  switch (rule.to) {
    case 'primary contact':
    case 'all contacts':
    case 'other contacts':
    case 'who pays':
    case 'who takes part':
    case 'person in charge':
    case 'team':
    case 'copy to self':
      return recipientNames[rule.to]
    case 'named contacts':
      return rule.contactIds.length === 1 ? 'one chosen contact' : `${rule.contactIds.length} chosen contacts`
    case 'person':
      return personName(rule.personId)
    case 'address':
      return rule.address
  }
}

/** Recipients that need no name, as words. */
export const recipientNames = {
  'primary contact': 'the primary contact',
  'all contacts': 'all contacts',
  'other contacts': 'the other contacts',
  'who pays': 'who pays for the booking',
  'who takes part': 'who takes part, or is chosen for the enquiry',
  'person in charge': 'the person in charge',
  team: 'the team',
  'copy to self': 'us, as a copy',
} as const

export function recipientsWords(rules: readonly RecipientRule[], personName: PersonName): string {
  const words = rules.map((rule) => recipientWords(rule, personName))
  return words.length < 2
    ? (words[0] ?? 'nobody')
    : `${words.slice(0, -1).join(', ')} and ${words.at(-1) ?? ''}`
}

export const senderWords: Readonly<Record<MessageStep['sender'], string>> = {
  business: 'the business',
  'person in charge': 'the person in charge',
  'shared mailbox': 'the shared mailbox',
}

/** `again every 4 days until the invoice is paid, at most 3 times`. */
export function repeatWords(repeat: Repeat, names: ConditionNames): string {
  const { every, untilCondition, untilAnchor, atMost } = repeat
  const interval = every.amount === 1 ? spanWords(every).slice(2) : spanWords(every)
  const ends = [
    untilCondition === null ? '' : ` until ${conditionWords(untilCondition, names)}`,
    untilAnchor === null ? '' : `${untilCondition ? ' or' : ' until'} ${anchorWords(untilAnchor)}`,
    atMost === null ? '' : `, at most ${atMost === 1 ? 'once' : `${atMost} times`}`,
  ]
  return `again every ${interval}${ends.join('')}`
}

export const sendingHoursWords = {
  earlier: 'outside the sending hours it goes earlier',
  later: 'outside the sending hours it goes later',
  ignore: 'at whatever hour',
} as const

export const ifLateWords = {
  drop: 'left out if its moment has passed',
  'send now': 'sent at the first open moment if it is late',
} as const

export const ifMovedWords = {
  'send again': 'sent again if the booking moves',
  leave: 'not sent again if the booking moves',
} as const

/** How long after its wanted time a step is of use. */
export function usefulWords(usefulFor: NonNullable<PlainStep['usefulFor']>): string {
  return `useful for ${spanWords(usefulFor)}`
}
