import { z } from 'zod'
import { idOf, instant, language, oneLine, requiredLine } from './values.ts'

export const letterId = idOf('lt')
export const passageId = idOf('ps')
export const pictureId = idOf('pc')
export const fileId = idOf('fl')

/** The merge fields a letter can carry. */
export const fieldNames = [
  'contact.firstName',
  'contact.lastName',
  'contact.fullName',
  'client.name',
  'booking.service',
  'booking.place',
  'booking.date',
  'booking.shortDate',
  'booking.weekday',
  'booking.time',
  'booking.endTime',
  'booking.oldDate',
  'booking.oldTime',
  'booking.partySize',
  'booking.directions',
  'booking.price',
  'booking.deposit',
  'booking.balance',
  'booking.freeUntil',
  'booking.fee',
  'booking.dayFromSending',
  'booking.distanceFromSending',
  'enquiry.wishedDate',
  'enquiry.progress',
  'enquiry.what',
  'enquiry.partySize',
  'enquiry.budget',
  'enquiry.source',
  'enquiry.deadline',
  'invoice.amount',
  'invoice.number',
  'invoice.open',
  'invoice.dueDate',
  'invoice.dueFromSending',
  'run.startDate',
  'person.name',
  'person.firstName',
  'person.email',
  'business.name',
  'business.phone',
  'business.postalAddress',
  'link.booking',
  'link.confirm',
  'link.calendar',
  'link.move',
  'link.cancel',
  'link.again',
  'link.pay',
  'link.all',
  'link.optOut',
] as const
export const plainFieldName = z.enum(fieldNames)
export type PlainFieldName = z.infer<typeof plainFieldName>

const ownPrefix = 'answer: '

/** A field of the business's own: what was answered to some words, for a booking or an enquiry. */
export type OwnFieldName = `${typeof ownPrefix}${string}`

/** The field that says what was answered to some words. */
export const ownField = (words: string): OwnFieldName => `${ownPrefix}${words}`

export const isOwnField = (name: string): name is OwnFieldName => name.startsWith(ownPrefix)

/** The words a field of one's own goes by. */
export const wordsOfOwnField = (name: OwnFieldName) => name.slice(ownPrefix.length)

const ownFieldName = z
  .templateLiteral([ownPrefix, z.string()])
  .refine((name) => requiredLine(200, '').safeParse(wordsOfOwnField(name)).data === wordsOfOwnField(name), {
    message: 'An own field goes by its words.',
  })

const signPrefix = 'link.sign: '

/** The link under which a document is signed, by the document's name. */
export type SignFieldName = `${typeof signPrefix}${string}`

export const signField = (documentName: string): SignFieldName => `${signPrefix}${documentName}`

export const isSignField = (name: string): name is SignFieldName => name.startsWith(signPrefix)

export const documentOfSignField = (name: SignFieldName) => name.slice(signPrefix.length)

const signFieldName = z
  .templateLiteral([signPrefix, z.string()])
  .refine(
    (name) => requiredLine(80, '').safeParse(documentOfSignField(name)).data === documentOfSignField(name),
    { message: 'A document goes by its name.' },
  )

export const fieldName = z.union([plainFieldName, ownFieldName, signFieldName])
export type FieldName = z.infer<typeof fieldName>

/**
 * What happens when a field has no value: another word stands in, its sentence is left out, or the message is held for
 * a person. Undecided holds it too, and is a problem to be seen to.
 */
export const missingRule = z.discriminatedUnion('kind', [
  z
    .object({ kind: z.literal('substitute'), text: oneLine(200).min(1, 'Give the word that stands in.') })
    .strict(),
  z.object({ kind: z.literal('leave out') }).strict(),
  z.object({ kind: z.literal('hold') }).strict(),
  z.object({ kind: z.literal('undecided') }).strict(),
])
export type MissingRule = z.infer<typeof missingRule>

export const inline = z.discriminatedUnion('kind', [
  z
    .object({
      kind: z.literal('text'),
      text: z.string().max(20_000),
      strong: z.boolean().optional(),
      emphasis: z.boolean().optional(),
      /** A web or mail address this text leads to. */
      link: z.string().max(2000).optional(),
    })
    .strict(),
  z.object({ kind: z.literal('field'), field: fieldName, ifMissing: missingRule }).strict(),
])
export type Inline = z.infer<typeof inline>

export const sectionId = z.string().regex(/^[A-Za-z0-9-]{1,40}$/, 'A section needs an id.')
const line = z.array(inline).max(500)
const paragraphs = z.array(line).max(200)
/** Marked by its author as advertising: it has no place in a letter about a booking. */
const own = { id: sectionId, isAdvertising: z.boolean().optional() }

const sectionWith = (paragraphs: z.ZodArray<typeof line>) =>
  z.discriminatedUnion('kind', [
    z.object({ ...own, kind: z.literal('heading'), content: line }).strict(),
    z.object({ ...own, kind: z.literal('text'), paragraphs }).strict(),
    /** What, when, where, for how many: always whole. */
    z.object({ ...own, kind: z.literal('facts') }).strict(),
    z.object({ ...own, kind: z.literal('divider') }).strict(),
    z.object({ ...own, kind: z.literal('signature') }).strict(),
    z.object({ ...own, kind: z.literal('picture'), pictureId, alternative: oneLine(300) }).strict(),
    z.object({ ...own, kind: z.literal('button'), label: line, link: z.string().max(2000) }).strict(),
    z.object({ ...own, kind: z.literal('columns'), left: paragraphs, right: paragraphs }).strict(),
    z.object({ ...own, kind: z.literal('passage'), passageId }).strict(),
  ])
export const section = sectionWith(paragraphs)
export type Section = z.infer<typeof section>

/** The words of one copy instead of its letter's. */
export const ownWords = z.object({ subject: line, sections: z.array(section).max(100) }).strict()
export type OwnWords = z.infer<typeof ownWords>

/** Larger pictures make messages that mail programs cut or refuse. */
export const largestPictureBytes = 600_000
/** Mail accounts take some 20 MB; a file grows by a third on the way, and a letter may carry several. */
export const largestFileBytes = 2_000_000

/** A picture or another file that letters carry. */
export interface EnclosedFile {
  readonly id: string
  readonly name: string
  readonly type: string
  readonly bytes: Uint8Array
}

/** What is sent along: the appointment as a calendar file, or a stored file. */
export const attachment = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('calendar') }).strict(),
  z.object({ kind: z.literal('file'), fileId, name: requiredLine(120, 'A file needs a name.') }).strict(),
])
export type Attachment = z.infer<typeof attachment>

/**
 * What a letter says in one copy, as a person approved it: with all that differs for its reader, its personal line, and
 * its passages written out. A later text of the letter does not change it.
 */
export const approvedWords = z
  .object({
    letterId,
    language,
    letterhead: z.enum(['none', 'business']),
    subject: line,
    preheader: line,
    sections: z.array(sectionWith(z.array(line).max(5000))).max(101),
    attachments: z.array(attachment).max(10),
  })
  .strict()
export type ApprovedWords = z.infer<typeof approvedWords>

export const moments = ['asked', 'booked', 'before', 'the day', 'after', 'later', 'any time'] as const
export const letterMoment = z.enum(moments)
export type LetterMoment = z.infer<typeof letterMoment>

/** Other words for a language, a service or a client: only what differs, by section; the rest is written once. */
export const letterVariant = z
  .object({
    scope: z.discriminatedUnion('of', [
      /** A translation: for clients of this language. */
      z.object({ of: z.literal('language'), language }).strict(),
      /** With a language: the service's words in that translation. */
      z.object({ of: z.literal('service'), serviceId: idOf('sv'), language: language.optional() }).strict(),
      z.object({ of: z.literal('client'), clientId: idOf('cl') }).strict(),
    ]),
    /** Null: the general subject. */
    subject: line.nullable(),
    /** Null: the general preview text. */
    preheader: line.nullable().default(null),
    /** Sections that stand in for the general ones of the same id. */
    sections: z.array(section).max(50),
  })
  .strict()
export type LetterVariant = z.infer<typeof letterVariant>

/** What a person writes of a letter. */
export const letterContent = z
  .object({
    name: requiredLine(120, 'A letter needs a name.'),
    moment: letterMoment,
    /** Promotional letters carry the postal address and a way to opt out, and need consent. */
    class: z.enum(['service', 'promotional']),
    language,
    /** None: it looks like a typed mail. */
    letterhead: z.enum(['none', 'business']),
    subject: line,
    /** The words mail programs show behind the subject. */
    preheader: line,
    sections: z.array(section).max(100),
    variants: z.array(letterVariant).max(100),
    attachments: z.array(attachment).max(10).default([]),
    /** Whether it is left unnoticed who opens it and follows its links. */
    isUnnoticed: z.boolean().default(false),
  })
  .strict()
  .refine(
    ({ sections }) => new Set(sections.map(({ id }) => id)).size === sections.length,
    'Two sections have the same id.',
  )
export type LetterContent = z.infer<typeof letterContent>

/** A letter as a file of its own: its words, and what says that they are a letter. */
export const letterFileFormat = 'vorfreude-letter-1'
export const letterFile = letterContent.safeExtend({ format: z.literal(letterFileFormat) })
export type LetterFile = z.infer<typeof letterFile>

export const letter = z
  .object({
    ...letterContent.shape,
    id: letterId,
    /** It was never published: one to start from, or a new one. It goes to nobody. */
    isStarter: z.boolean(),
    isArchived: z.boolean(),
    version: z.number().int().min(1),
    changedAt: instant,
  })
  .strict()
export type Letter = z.infer<typeof letter>

/** Words kept once and used in many letters: parking, policy, terms. */
export const passage = z
  .object({
    id: passageId,
    name: requiredLine(80, 'A passage needs a name.'),
    paragraphs,
    /** The same in other languages; where one is missing these words stand. */
    translations: z.array(z.object({ language, paragraphs }).strict()).max(5).default([]),
    version: z.number().int().min(1),
  })
  .strict()
export type Passage = z.infer<typeof passage>
