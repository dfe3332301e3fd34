import type { FieldName } from '../model/letter.ts'

/** A name somebody really has. */
export interface KnownName {
  readonly name: string
  readonly whose: 'client' | 'team'
}

/** Typed words that a field should give, or that nobody meant to send. */
export interface TypedFault {
  readonly code: 'typed date' | 'typed weekday' | 'typed time word' | 'real name' | 'placeholder'
  readonly text: string
  readonly why: string
  /** What should stand in its place; null: that cannot be told. */
  readonly field: FieldName | null
}

const months =
  'January|February|March|April|May|June|July|August|September|October|November|December|Januar|Februar|März|Mai|Juni|Juli|Oktober|Dezember'
const weekdays =
  'Monday|Tuesday|Wednesday|Thursday|Friday|Saturday|Sunday|Montag|Dienstag|Mittwoch|Donnerstag|Freitag|Samstag|Sonntag'

interface Pattern {
  readonly code: TypedFault['code']
  readonly expression: RegExp
  readonly why: string
  readonly field: FieldName | null
}

const patterns: readonly Pattern[] = [
  {
    code: 'placeholder',
    expression:
      /\b(?:lorem ipsum[^.]*|your name here|your text here|insert \w+ here|TODO|TBD|XXX+|Mustermann)\b|\[[^\]\n]{1,40}\]|\{\{?[^}\n]{1,40}\}?\}|<<[^>\n]{1,40}>>/gi,
    why: 'This looks like something that was to be filled in.',
    field: null,
  },
  {
    code: 'typed date',
    expression: new RegExp(
      String.raw`\b\d{4}-\d{2}-\d{2}\b|\b\d{1,2}[./]\d{1,2}[./](?:\d{4}|\d{2})\b|\b\d{1,2}\.? (?:${months})\b(?: \d{4})?|\b(?:${months}) \d{1,2}(?:st|nd|rd|th)?(?:, \d{4})?\b`,
      'g',
    ),
    why: 'A typed date is right for one client only.',
    field: 'booking.date',
  },
  {
    code: 'typed time word',
    expression:
      /\b(?:today|tomorrow|tonight|yesterday|heute|morgen(?! früh)|gestern|this (?:Monday|Tuesday|Wednesday|Thursday|Friday|Saturday|Sunday)|next (?:Monday|Tuesday|Wednesday|Thursday|Friday|Saturday|Sunday|week))\b/gi,
    why: 'A typed time word is wrong as soon as the message goes on another day.',
    field: 'booking.dayFromSending',
  },
  {
    code: 'typed time word',
    expression:
      /\bin (?:\d+|one|two|three|four|five|six|zwei|drei|vier) (?:days?|weeks?|months?|Tagen?|Wochen?|Monaten?)\b/gi,
    why: 'How long it still is depends on the day the message goes.',
    field: 'booking.distanceFromSending',
  },
  {
    code: 'typed weekday',
    expression: new RegExp(String.raw`\b(?:${weekdays})\b(?!s)`, 'g'),
    why: 'A typed weekday is right for one client only.',
    field: 'booking.weekday',
  },
]

/** Greetings that a name follows, and words that stand there for nobody in particular. */
const greetings =
  'dear|hello|hi|hey|good (?:morning|day|evening)|hallo|liebe|lieber|guten (?:tag|morgen|abend)|moin|servus'
const nobodys =
  'all|both|everybody|everyone|friend|friends|guest|guests|there|team|sir|madam|ladies|alle|beide|zusammen|gast|gäste|freunde|freundinnen|familie|damen'
const greeted = new RegExp(
  String.raw`(?<=(?<![\p{L}\p{N}])(?:${greetings}) )(?!(?:${nobodys})(?![\p{L}]))\p{L}[\p{L}’'-]+(?: \p{L}[\p{L}’'-]+)?(?=\s*[,!])`,
  'giu',
)

/** A name typed behind a greeting, whoever it belongs to. */
function greetingFaults(text: string): TypedFault[] {
  return [...text.matchAll(greeted)]
    .filter(([name]) => /^\p{Lu}/u.test(name))
    .map(([name]) => ({
      code: 'real name',
      text: name,
      why: 'A name typed behind a greeting is right for one client only.',
      field: 'contact.firstName',
    }))
}

const escapeExpression = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, String.raw`\$&`)

/** Names so short that they would be found in ordinary words. */
const shortestName = 4

function nameFaults(text: string, names: readonly KnownName[]): TypedFault[] {
  return names
    .filter(({ name }) => name.length >= shortestName && text.includes(name))
    .filter(({ name }) =>
      new RegExp(String.raw`(?<![\p{L}\p{N}])${escapeExpression(name)}(?![\p{L}\p{N}])`, 'u').test(text),
    )
    .map(({ name, whose }) => ({
      code: 'real name',
      text: name,
      why:
        whose === 'client'
          ? 'A client has this name: everybody else would be called so too.'
          : 'Somebody of the team has this name, who is not always in charge.',
      field: whose === 'client' ? 'contact.fullName' : 'person.name',
    }))
}

/** The faults of one stretch of typed text, none within another. */
export function typedFaults(text: string, names: readonly KnownName[]): readonly TypedFault[] {
  const taken: { from: number; to: number }[] = []
  const found: { at: number; fault: TypedFault }[] = []
  for (const { code, expression, why, field } of patterns) {
    for (const match of text.matchAll(expression)) {
      const [from, to] = [match.index, match.index + match[0].length]
      if (taken.some((one) => from < one.to && one.from < to)) continue
      taken.push({ from, to })
      found.push({ at: from, fault: { code, text: match[0], why, field } })
    }
  }
  const known = nameFaults(text, names)
  const isKnown = (name: string) => known.some((one) => one.text.includes(name) || name.includes(one.text))
  return [
    ...found.toSorted((one, other) => one.at - other.at).map(({ fault }) => fault),
    ...known,
    ...greetingFaults(text).filter((fault) => !isKnown(fault.text)),
  ]
}
