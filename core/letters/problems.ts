import type { FieldName, Inline, LetterContent, MissingRule, Passage, Section } from '../model/letter.ts'
import type { Language } from '../model/values.ts'
import { fieldInfo, freshField, type FieldNeed } from './fieldList.ts'
import { languageNames } from './language.ts'
import { fieldOfLink, safeLink } from './links.ts'
import { wordsOfSection } from './plainWords.ts'
import { brokenPromise, promisesIn, wrongSending } from './promises.ts'
import type { Sending } from './sendings.ts'
import { translationsOf } from './translations.ts'
import { typedFaults, type KnownName } from './typedFaults.ts'

/** Where something stands in a letter. */
export type Place =
  { readonly in: 'subject' | 'preheader' | 'letter' } | { readonly in: 'section'; readonly id: string }

/** What one press does about a problem. */
export type Fix =
  | { readonly kind: 'replace text by field'; readonly text: string; readonly field: FieldName }
  | { readonly kind: 'replace text'; readonly text: string; readonly by: string }
  | { readonly kind: 'add own word'; readonly word: string }
  | { readonly kind: 'set missing rule'; readonly field: FieldName; readonly rule: MissingRule }
  | { readonly kind: 'add section'; readonly section: 'signature' | 'facts' }
  | { readonly kind: 'add passage'; readonly passageId: string }
  | { readonly kind: 'make promotional' }

export interface LetterProblem {
  readonly code: string
  readonly place: Place
  /** What it is about: the words or the field at fault. */
  readonly about: string
  readonly why: string
  /** None: only a person can mend it. */
  readonly fixes: readonly { readonly label: string; readonly does: Fix }[]
}

/** What a letter is looked at against. */
export interface ProblemContext {
  readonly passages: readonly Passage[]
  /** How it goes out; empty: no sequence sends it. */
  readonly sendings: readonly Sending[]
  /** Names of real clients and of the team, which a field should give. */
  readonly names: readonly KnownName[]
  readonly hasPostalAddress: boolean
  /** The passages each other letter of the same moment has. */
  readonly sisters: readonly (readonly string[])[]
}

interface Piece {
  readonly place: Place
  readonly language: Language
  readonly nodes: readonly Inline[]
}

/** The words of a section, and the field that a button leads to. */
function piecesOf(section: Section): readonly (readonly Inline[])[] {
  const field = section.kind === 'button' ? fieldOfLink(section.link) : null
  return field ? [...wordsOfSection(section), [freshField(field)]] : wordsOfSection(section)
}

/** Every stretch of typed words and fields of a letter, variants included. */
export function piecesOfLetter(content: LetterContent): readonly Piece[] {
  const { subject, preheader, sections, variants } = content
  const ofSections = (some: readonly Section[], language: Language) =>
    some.flatMap((section) =>
      piecesOf(section).map((nodes): Piece => ({
        place: { in: 'section', id: section.id },
        language,
        nodes,
      })),
    )
  return [
    { place: { in: 'subject' }, language: content.language, nodes: subject },
    { place: { in: 'preheader' }, language: content.language, nodes: preheader },
    ...ofSections(sections, content.language),
    ...variants.flatMap((variant) => {
      const { scope } = variant
      const language = scope.of === 'client' ? content.language : (scope.language ?? content.language)
      const lines = (['subject', 'preheader'] as const).flatMap((which): Piece[] => {
        const nodes = variant[which]
        return nodes ? [{ place: { in: which }, language, nodes }] : []
      })
      return [...lines, ...ofSections(variant.sections, language)]
    }),
  ]
}

const asText = (nodes: readonly Inline[]) =>
  nodes.map((node) => (node.kind === 'text' ? node.text : '\uFFFC')).join('')

const needWords: Readonly<Record<FieldNeed, string>> = {
  nothing: 'a client',
  booking: 'a booking',
  enquiry: 'an enquiry',
  invoice: 'an invoice',
}

function available(need: FieldNeed, usedFor: readonly FieldNeed[]): boolean {
  if (need === 'nothing') return true
  // An invoice brings its booking along.
  return usedFor.every((use) => use === need || (need === 'booking' && use === 'invoice'))
}

function fieldProblems({ place, nodes }: Piece, { sendings }: ProblemContext): LetterProblem[] {
  const usedFor = sendings.map(({ about }) => about)
  return nodes.flatMap((node): LetterProblem[] => {
    if (node.kind !== 'field') return []
    const { label, needs } = fieldInfo(node.field)
    if (!available(needs, usedFor)) {
      const use = usedFor.find((one) => one !== needs) ?? 'nothing'
      const why = `A sequence that sends this letter is about ${needWords[use]}, where “${label}” has no value.`
      return [{ code: 'unavailable field', place, about: label, why, fixes: [] }]
    }
    if (node.ifMissing.kind !== 'undecided') return []
    return [
      {
        code: 'no rule for a missing value',
        place,
        about: label,
        why: 'Nobody has said what happens when this value is missing: the message would be held.',
        fixes: [
          {
            label: 'Leave the sentence out then',
            does: { kind: 'set missing rule', field: node.field, rule: { kind: 'leave out' } },
          },
          {
            label: 'Hold the message then',
            does: { kind: 'set missing rule', field: node.field, rule: { kind: 'hold' } },
          },
        ],
      },
    ]
  })
}

function linkProblems({ place, nodes }: Piece): LetterProblem[] {
  return nodes.flatMap((node): LetterProblem[] =>
    node.kind === 'text' && node.link !== undefined && safeLink(node.link) === null
      ? [
          {
            code: 'no link',
            place,
            about: node.link,
            why: 'This leads nowhere. A link begins with https://, mailto: or tel:.',
            fixes: [],
          },
        ]
      : [],
  )
}

/** Longer than this, phones and lists cut a subject off. Common practice, no source. */
const longestSubject = 70

function subjectProblems({ subject }: LetterContent): LetterProblem[] {
  const text = asText(subject).trim()
  const place = { in: 'subject' } as const
  if (text === '') {
    return [
      {
        code: 'no subject',
        place,
        about: '',
        why: 'A message without a subject looks like a mistake.',
        fixes: [],
      },
    ]
  }
  if (text.length <= longestSubject) return []
  const why = `It has ${text.length} characters; lists on phones show about ${longestSubject}.`
  return [{ code: 'long subject', place, about: text, why, fixes: [] }]
}

function sectionProblems(content: LetterContent, { passages }: ProblemContext): LetterProblem[] {
  return content.sections.flatMap((section): LetterProblem[] => {
    const place = { in: 'section', id: section.id } as const
    const found: LetterProblem[] = []
    if (section.isAdvertising && content.class === 'service') {
      found.push({
        code: 'advertising in a service letter',
        place,
        about: 'Advertising',
        why: 'This section is marked as advertising: a client who wants none would get it all the same.',
        fixes: [{ label: 'Make the letter promotional', does: { kind: 'make promotional' } }],
      })
    }
    if (section.kind === 'picture' && section.alternative.trim() === '') {
      const why = 'Whoever cannot see the picture reads nothing in its place.'
      found.push({ code: 'no alternative text', place, about: 'Picture', why, fixes: [] })
    }
    if (section.kind === 'button' && fieldOfLink(section.link) === null && safeLink(section.link) === null) {
      const why = 'This button leads nowhere. A link begins with https://, mailto: or tel:.'
      found.push({ code: 'no link', place, about: section.link || 'Button', why, fixes: [] })
    }
    if (section.kind === 'passage' && !passages.some(({ id }) => id === section.passageId)) {
      found.push({
        code: 'passage gone',
        place,
        about: 'Passage',
        why: 'This passage is not there any more.',
        fixes: [],
      })
    }
    return found
  })
}

function promotionalProblems(content: LetterContent, { hasPostalAddress }: ProblemContext): LetterProblem[] {
  if (content.class !== 'promotional' || hasPostalAddress) return []
  const why =
    'Promotional mail must carry the postal address of the business (16 CFR 316): it is missing in Set-up.'
  return [{ code: 'no postal address', place: { in: 'letter' }, about: 'Postal address', why, fixes: [] }]
}

/** At least so many sisters must have a passage before its absence is remarkable. */
const fewestSisters = 2

function sisterProblems(content: LetterContent, { sisters, passages }: ProblemContext): LetterProblem[] {
  if (sisters.length < fewestSisters) return []
  const own = passageIdsOf(content)
  const common = (sisters[0] ?? []).filter((id) => sisters.every((other) => other.includes(id)))
  return common
    .filter((id) => !own.includes(id))
    .map((id) => {
      const name = passages.find((one) => one.id === id)?.name ?? id
      return {
        code: 'passage of all sisters',
        place: { in: 'letter' } as const,
        about: name,
        why: `All other letters of this moment have the passage “${name}”.`,
        fixes: [{ label: 'Add the passage', does: { kind: 'add passage', passageId: id } as const }],
      }
    })
}

/** The passages a letter uses. */
export function passageIdsOf({ sections }: Pick<LetterContent, 'sections'>): readonly string[] {
  return sections.flatMap((section) => (section.kind === 'passage' ? [section.passageId] : []))
}

function typedFix(code: string, text: string, field: FieldName | null): LetterProblem['fixes'] {
  if (field) {
    const label = `Put “${fieldInfo(field).label}” in its place`
    return [{ label, does: { kind: 'replace text by field', text, field } }]
  }
  return code === 'placeholder'
    ? [{ label: 'Take it out', does: { kind: 'replace text', text, by: '' } }]
    : []
}

function typedProblems({ place, nodes }: Piece, { names, sendings }: ProblemContext): LetterProblem[] {
  return nodes.flatMap((node): LetterProblem[] =>
    node.kind === 'text'
      ? typedFaults(node.text, names).map(({ code, text, why, field }) => {
          const wrong = code === 'typed time word' ? wrongSending(text, sendings) : null
          return { code, place, about: text, why: wrong ?? why, fixes: typedFix(code, text, field) }
        })
      : [],
  )
}

function promiseProblems({ place, nodes }: Piece, { sendings }: ProblemContext): LetterProblem[] {
  return promisesIn(asText(nodes)).flatMap((sentence): LetterProblem[] => {
    const why = brokenPromise(sendings)
    return why === null ? [] : [{ code: 'promise in office hours', place, about: sentence, why, fixes: [] }]
  })
}

function translationProblems(content: LetterContent, { passages }: ProblemContext): LetterProblem[] {
  return translationsOf(content, passages).flatMap(({ language, gaps, serviceGaps }) => {
    const name = languageNames[language]
    const why = `It is not in the ${name} text: whoever reads ${name} gets it in ${languageNames[content.language]}.`
    const ofService = `What a service says here instead is not in ${name}: whoever reads ${name} does not get it in ${name}.`
    const problem = (place: LetterProblem['place'], sentence: string): LetterProblem => {
      return { code: 'not translated', place, about: `Not in ${name}`, why: sentence, fixes: [] }
    }
    return [
      ...gaps.map((place) => problem(place, why)),
      ...serviceGaps.map((place) => problem(place, ofService)),
    ]
  })
}

/** Everything that should be seen to before a letter goes, in the order of reading. */
export function problemsOf(content: LetterContent, context: ProblemContext): readonly LetterProblem[] {
  const pieces = piecesOfLetter(content)
  return [
    ...subjectProblems(content),
    ...pieces.flatMap((piece) => [
      ...fieldProblems(piece, context),
      ...typedProblems(piece, context),
      ...promiseProblems(piece, context),
      ...linkProblems(piece),
    ]),
    ...sectionProblems(content, context),
    ...promotionalProblems(content, context),
    ...sisterProblems(content, context),
    ...translationProblems(content, context),
  ]
}
