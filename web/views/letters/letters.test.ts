import { describe, expect, test } from '@jest/globals'
import { actUrlsBy } from '#core/model/clientAct.ts'
import fc from 'fast-check'
import type { AudienceRow } from '#core/api/letterEndpoints.ts'
import { field, optional, words } from '#core/letters/authoring.ts'
import { linkToField } from '#core/letters/links.ts'
import { problemsOf } from '#core/letters/problems.ts'
import {
  fieldNames,
  type Inline,
  type LetterContent,
  type LetterVariant,
  type Section,
} from '#core/model/letter.ts'
import {
  exampleBusiness,
  exampleClient,
  examplePerson,
  exampleService,
} from '#core/rehearsal/exampleBusiness.ts'
import { realZones } from '#core/time/realZones.ts'
import { documentOf, sectionsOf } from './document.ts'
import { fixed } from './fixes.ts'
import { linesOf } from './plainLines.ts'
import { createTrial } from './tryAll.ts'

const text = fc.string({ minLength: 1, maxLength: 12 }).map((value) => `${value}.`)
const chip = fc.record({
  kind: fc.constant('field' as const),
  field: fc.constantFrom(...fieldNames),
  ifMissing: fc.oneof(
    fc.constant({ kind: 'hold' as const }),
    fc.constant({ kind: 'undecided' as const }),
    fc.record({ kind: fc.constant('substitute' as const), text: fc.constant('there') }),
  ),
})
const marked = fc.record(
  {
    kind: fc.constant('text' as const),
    text,
    strong: fc.constant(true),
    emphasis: fc.constant(true),
    link: fc.constant('https://house.example/a'),
  },
  { requiredKeys: ['kind', 'text'] },
)

/** Words as an editor gives them back: neighbours of the same look are one. */
const line = fc
  .array(fc.oneof(chip, marked), { maxLength: 6 })
  .map((nodes): Inline[] =>
    nodes.filter((node, index) => node.kind === 'field' || nodes[index - 1]?.kind !== 'text'),
  )
const paragraphs = fc.array(line, { minLength: 1, maxLength: 3 })

const part: fc.Arbitrary<Omit<Section, 'id'>> = fc.oneof(
  fc.record({ kind: fc.constant('heading' as const), content: line }),
  fc.record({ kind: fc.constantFrom('facts' as const, 'divider' as const, 'signature' as const) }),
  fc.record({ kind: fc.constant('picture' as const), pictureId: fc.constant('pc_1'), alternative: text }),
  fc.record({ kind: fc.constant('button' as const), label: line, link: fc.webUrl() }),
  fc.record({ kind: fc.constant('columns' as const), left: paragraphs, right: paragraphs }),
  fc.record({
    kind: fc.constant('passage' as const),
    passageId: fc.constant('ps_1'),
    isAdvertising: fc.constant(true),
  }),
)

const body = fc
  .array(fc.oneof(part, fc.record({ kind: fc.constant('text' as const), paragraphs })), {
    minLength: 1,
    maxLength: 8,
  })
  .map((parts) =>
    parts
      // Two text sections beside each other are one to the editor.
      .filter((one, index) => one.kind !== 'text' || parts[index - 1]?.kind !== 'text')
      .map((one, index) => ({ ...one, id: `s${index}` }) as Section),
  )

describe('a letter’s body as the editor’s document', () => {
  test('loses nothing there and back', () => {
    fc.assert(
      fc.property(body, (sections) => {
        expect(sectionsOf(documentOf(sections))).toEqual(sections)
      }),
    )
  })

  test('gives every section an id of its own, even where one was copied', () => {
    fc.assert(
      fc.property(body, (sections) => {
        const { content = [], ...document } = documentOf(sections)
        const twice = sectionsOf({ ...document, content: [...content, ...content] })
        expect(new Set(twice.map(({ id }) => id)).size).toBe(twice.length)
      }),
    )
  })

  test('takes no half field', () => {
    const broken = { type: 'chip', attrs: { field: 'contact.firs' } }
    const content = [{ type: 'paragraph', content: [broken, { type: 'text', text: 'x' }] }]
    expect(sectionsOf({ type: 'doc', content })).toEqual([
      { id: 'n0-1', kind: 'text', paragraphs: [[{ kind: 'text', text: 'x' }]] },
    ])
  })
})

const contentOf = (lines: Inline[][], rest: Partial<LetterContent> = {}): LetterContent => ({
  name: 'x',
  moment: 'before',
  class: 'service',
  language: 'en',
  letterhead: 'business',
  subject: words`Soon`,
  preheader: [],
  sections: [
    { id: 'a', kind: 'text', paragraphs: lines },
    { id: 'z', kind: 'signature' },
  ],
  variants: [],
  attachments: [],
  isUnnoticed: false,
  ...rest,
})

describe('a problem seen to at one press', () => {
  const context = {
    passages: [{ id: 'ps_way', name: 'The way', paragraphs: [], translations: [], version: 1 }],
    sendings: [],
    names: [{ name: 'Enno Brandt', whose: 'client' as const }],
    hasPostalAddress: true,
    sisters: [['ps_way'], ['ps_way']],
  }

  test('is gone, and nothing else has changed', () => {
    const letter = contentOf(
      [
        words`Dear Enno Brandt, [NAME] on Saturday, tomorrow.`,
        [{ kind: 'field', field: 'contact.firstName', ifMissing: { kind: 'undecided' } }],
      ],
      {
        sections: [
          {
            id: 'a',
            kind: 'text',
            isAdvertising: true,
            paragraphs: [words`Dear Enno Brandt, [NAME] on Saturday, tomorrow.`],
          },
        ],
      },
    )
    let present = letter
    let before = problemsOf(present, context)
    expect(before.map(({ code }) => code)).toEqual([
      'placeholder',
      'typed weekday',
      'typed time word',
      'real name',
      'advertising in a service letter',
      'passage of all sisters',
    ])
    while (before.length > 0) {
      const [first] = before
      const [fix] = first?.fixes ?? []
      if (!first || !fix) throw new Error(`no fix: ${first?.code ?? ''}`)
      present = fixed(present, first.place, fix.does)
      const after = problemsOf(present, context)
      expect(after.length).toBeLessThan(before.length)
      before = after
    }
    const names = { passages: context.passages, services: [exampleService] }
    expect(linesOf(present, names)).toEqual([
      'Soon',
      'Dear ‹Full name›,  on ‹Weekday›, ‹Weekday or date›.',
      'Passage “The way”',
    ])
    expect(present.class).toBe('promotional')
  })

  test('what is compared names things as people do, other words with for whom they are', () => {
    const button: Section = {
      id: 'b',
      kind: 'button',
      label: words`See it`,
      link: linkToField('link.booking'),
    }
    const facts: Section = { id: 'f', kind: 'facts' }
    const of = (scope: LetterVariant['scope'], subject: string): LetterVariant => ({
      scope,
      subject: [{ kind: 'text', text: subject }],
      preheader: null,
      sections: [],
    })
    const compared: LetterContent = {
      ...contentOf([]),
      subject: words`Soon`,
      preheader: [],
      sections: [button, facts],
      variants: [
        of({ of: 'language', language: 'de' }, 'Bald'),
        of({ of: 'service', serviceId: exampleService.id, language: 'de' }, 'Drachen'),
        of({ of: 'client', clientId: 'cl_1' }, 'Enno'),
      ],
    }
    expect(linesOf(compared, { passages: [], services: [exampleService] })).toEqual([
      'Soon',
      'See it → The booking’s page',
      'The facts of the booking',
      'German: Bald',
      'Kite lesson, German: Drachen',
      'For one client: Enno',
    ])
  })
})

const share = (content: LetterContent) => ({
  content,
  passages: [],
  services: [exampleService],
  people: [examplePerson],
  pattern: {
    business: exampleBusiness,
    client: exampleClient,
    contact: { id: 'ct_1', firstName: '', lastName: '', email: null, phone: '', isPrimary: true },
    booking: null,
    service: null,
    personInCharge: null,
    enquiry: null,
    invoice: null,
    progress: [],
    runStartedAt: 0,
    optOutUrl: 'https://x.example',
    payUrl: '',
    allUrl: 'https://x.example/all',
    toSign: [],
    bookingUrl: 'https://thistledown.example/yours/bk_1.abc',
    actUrls: actUrlsBy((act) => `https://thistledown.example/yours/bk_1.${act}/${act}`),
    sendingAt: Date.UTC(2026, 4, 14),
    zone: undefined,
    readerZone: undefined,
  },
})

const row = (index: number, part: Partial<AudienceRow> = {}): AudienceRow => ({
  clientId: `cl_${index}`,
  clientName: `Client ${index}`,
  language: 'en',
  firstName: `First ${index}`,
  lastName: 'Last',
  email: `c${index}@mail.example`,
  takesPromotional: true,
  bookingId: `bk_${index}`,
  serviceId: exampleService.id,
  startAt: Date.UTC(2026, 4, 16, 17),
  endAt: Date.UTC(2026, 4, 16, 19),
  partySize: 2,
  personInChargeId: null,
  ...part,
})

describe('a letter tried on everyone', () => {
  const content = contentOf([
    words`Hello ${field('contact.firstName', 'there')}.`,
    words`We meet on ${field('booking.date')}. ${optional('booking.place')} is the place.`,
  ])

  test('finds who lacks what, who would be held, and who has no address', () => {
    const tryOn = createTrial(share(content), realZones)
    expect(tryOn(row(1))).toMatchObject({ held: [], lacking: [], hasNoAddress: false })
    expect(tryOn(row(2, { firstName: '' }))).toMatchObject({ held: [], lacking: ['contact.firstName'] })
    expect(tryOn(row(3, { bookingId: null, startAt: null, endAt: null, serviceId: null }))).toMatchObject({
      held: ['booking.date'],
      lacking: ['booking.place'],
    })
    expect(tryOn(row(4, { email: null }))).toMatchObject({ hasNoAddress: true })
  })

  test('the words of a service count for its clients alone', () => {
    const own: Section = { id: 'a', kind: 'text', paragraphs: [words`Without fields.`] }
    const scope = { of: 'service', serviceId: exampleService.id } as const
    const varied = { ...content, variants: [{ scope, subject: null, preheader: null, sections: [own] }] }
    const tryOn = createTrial(share(varied), realZones)
    expect(tryOn(row(1, { bookingId: null, startAt: null, endAt: null }))).toMatchObject({ held: [] })
    expect(tryOn(row(2, { bookingId: null, startAt: null, endAt: null, serviceId: null }))).toMatchObject({
      held: ['booking.date'],
    })
  })

  test('20,000 clients are each tried once', () => {
    const tryOn = createTrial(share(content), realZones)
    const trials = Array.from({ length: 20_000 }, (_, index) =>
      tryOn(row(index, index % 10 === 0 ? { firstName: '' } : {})),
    )
    expect(trials.filter(({ lacking }) => lacking.length > 0)).toHaveLength(2_000)
    expect(new Set(trials.map(({ clientId }) => clientId)).size).toBe(20_000)
  })
})
