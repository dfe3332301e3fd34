import { signableDocument } from '../model/document.ts'
import { z } from 'zod'
import { booking } from '../model/booking.ts'
import { business, person, service } from '../model/business.ts'
import { actUrls } from '../model/clientAct.ts'
import { client, contact } from '../model/client.ts'
import { invoice } from '../model/dealings.ts'
import { enquiry } from '../model/enquiry.ts'
import { letter, letterContent, letterId, letterMoment, passage } from '../model/letter.ts'
import { sendState } from '../model/send.ts'
import { instant, requiredLine, language } from '../model/values.ts'
import { ask, change, command, end, largeFile, made, tell } from './described.ts'

export const letterLine = z.object({
  id: letterId,
  name: z.string(),
  moment: letterMoment,
  class: z.enum(['service', 'promotional']),
  language,
  /** Its translations, and how many parts each of them lacks. */
  translations: z.array(z.object({ language, gaps: z.number().int() })),
  /** Languages of clients that it does not have. */
  missingLanguages: z.array(language),
  isStarter: z.boolean(),
  isArchived: z.boolean(),
  /** Names of the sequences that send it. */
  usedBy: z.array(z.string()),
  /** Services it has other words for. */
  services: z.array(z.string()),
  /** Its words, to search in. */
  text: z.string(),
  problems: z.number().int(),
  changedAt: instant,
  /** Something is being written about it that is not published. */
  hasDraft: z.boolean(),
})
export type LetterLine = z.infer<typeof letterLine>

/** A passage with the names of the letters that use it. */
const usedPassage = z.object({ ...passage.shape, usedBy: z.array(z.string()) })
export type UsedPassage = z.infer<typeof usedPassage>

const knownName = z.object({ name: z.string(), whose: z.enum(['client', 'team']) })

/** What a letter is looked at against, as far as the server knows it. */
const letterContext = z.object({
  sendings: z.array(
    z.object({
      sequenceName: z.string(),
      about: z.enum(['nothing', 'booking', 'enquiry', 'invoice']),
      when: z.string(),
      daysAhead: z.number().nullable(),
      officeOpen: z.enum(['always', 'sometimes', 'never']),
    }),
  ),
  /** Words that are right though no dictionary has them. */
  ownWords: z.array(z.string()),
  names: z.array(knownName),
  hasPostalAddress: z.boolean(),
  sisters: z.array(z.array(z.string())),
})

export const letterView = z.object({
  /** Its published text. */
  letter,
  /** What is being written and nobody gets yet, and who wrote last; it may say the same. Null: nothing is. */
  draft: z
    .object({
      content: letterContent,
      revision: z.number().int(),
      changedAt: instant,
      personName: z.string().nullable(),
    })
    .nullable(),
  usedBy: z.array(z.string()),
  versions: z.array(
    z.object({
      version: z.number().int(),
      changedAt: instant,
      personName: z.string().nullable(),
      content: letterContent,
    }),
  ),
  context: letterContext,
  passages: z.array(passage),
})
export type LetterView = z.infer<typeof letterView>

/** What another text of letters would do to messages that have not gone. */
const letterEffect = z.object({
  /** Messages that take the new text, and how many of those wait for a person. */
  planned: z.number().int(),
  waiting: z.number().int(),
  /** Approved ones, which keep the words that were approved. */
  kept: z.number().int(),
  /** Of the next ones, those that would read otherwise than now. */
  lines: z.array(
    z.object({
      sendId: z.string(),
      clientId: z.string(),
      clientName: z.string(),
      recipientName: z.string(),
      isToClient: z.boolean(),
      state: sendState,
      at: instant.nullable(),
    }),
  ),
  /** How many of the next ones were looked at, and how many of them stay the same. */
  looked: z.number().int(),
  same: z.number().int(),
  problems: z.number().int(),
})
export type LetterEffect = z.infer<typeof letterEffect>

/** What a letter is filled from, as it goes over the wire: the zone by its name. */
export const mergeFactsView = z.object({
  business,
  client,
  contact,
  booking: booking.nullable(),
  enquiry: enquiry.nullable(),
  invoice: invoice.nullable(),
  service: service.nullable(),
  personInCharge: person.nullable(),
  progress: z.array(z.string()),
  runStartedAt: instant,
  optOutUrl: z.string(),
  bookingUrl: z.string(),
  actUrls,
  payUrl: z.string(),
  allUrl: z.string(),
  toSign: z.array(z.object({ document: signableDocument, url: z.string() })),
  zoneName: z.string(),
  sendingAt: instant,
})
export type MergeFactsView = z.infer<typeof mergeFactsView>

/** Somebody to look at a letter with. */
export const candidate = z.object({
  clientId: z.string(),
  bookingId: z.string().nullable(),
  label: z.string(),
  /** Why it is a hard case; empty: it is none. */
  why: z.string(),
})
export type Candidate = z.infer<typeof candidate>

/** One client with the next booking, as far as merge fields go. */
export const audienceRow = z.object({
  clientId: z.string(),
  clientName: z.string(),
  language: z.enum(['en', 'de']),
  firstName: z.string(),
  lastName: z.string(),
  email: z.string().nullable(),
  takesPromotional: z.boolean(),
  bookingId: z.string().nullable(),
  serviceId: z.string().nullable(),
  startAt: instant.nullable(),
  endAt: instant.nullable(),
  partySize: z.number().int().nullable(),
  personInChargeId: z.string().nullable(),
})
export type AudienceRow = z.infer<typeof audienceRow>

const about = { clientId: z.string(), bookingId: z.string().nullable() }
const saved = z.object({ id: z.string(), version: z.number().int() })

/** A text, the published version and the revision of the draft it was written over; 0: there was none. */
const writing = z
  .object({
    ...command,
    version: z.number().int().min(1),
    revision: z.number().int().min(0),
    content: letterContent,
  })
  .strict()

/** What the server can be asked about letters. */
export const letterEndpoints = {
  letters: ask({
    path: '/api/letters',
    summary: 'All letters and passages',
    answer: z.object({ letters: z.array(letterLine), passages: z.array(usedPassage) }),
  }),
  letter: ask({ path: '/api/letters/:id', summary: 'One letter with its versions', answer: letterView }),
  addLetter: tell({
    path: '/api/letters',
    summary: 'Write a new letter',
    body: z.object({ ...command, content: letterContent }).strict(),
    answer: made,
  }),
  saveLetterDraft: change({
    path: '/api/letters/:id/draft',
    summary: 'Keep what is being written about a letter; nobody gets it',
    body: writing,
    answer: z.object({ id: letterId, revision: z.number().int() }),
    isRecorded: false,
  }),
  dropLetterDraft: end({
    path: '/api/letters/:id/draft',
    summary: 'Discard what was being written about a letter',
    body: z.object(command).strict(),
    answer: z.object({ id: letterId, revision: z.number().int() }),
  }),
  letterEffect: tell({
    path: '/api/letters/:id/effect',
    summary: 'Which messages would read differently with a text, and for whom',
    body: z.object({ content: letterContent }).strict(),
    answer: letterEffect,
    isRecorded: false,
  }),
  publishLetter: tell({
    path: '/api/letters/:id/publish',
    summary: 'Publish a text: what is planned with the letter takes it',
    body: writing,
    answer: saved,
  }),
  archiveLetter: tell({
    path: '/api/letters/:id/archive',
    summary: 'Put a letter away, or take it out again',
    body: z.object({ ...command, isArchived: z.boolean() }).strict(),
    answer: made,
  }),
  removeLetter: end({
    path: '/api/letters/:id',
    summary: 'Delete a letter that nothing depends on',
    body: z.object(command).strict(),
    answer: made,
  }),
  putPassage: change({
    path: '/api/passages/:id',
    summary: 'Write a passage that letters share, or change it',
    body: z
      .object({
        ...command,
        version: z.number().int().min(0),
        passage: passage.pick({ name: true, paragraphs: true, translations: true }),
      })
      .strict(),
    answer: saved,
  }),
  passageEffect: tell({
    path: '/api/passages/:id/effect',
    summary: 'Which messages would read differently with other words of a passage, and for whom',
    body: z.object({ passage: passage.pick({ name: true, paragraphs: true, translations: true }) }).strict(),
    answer: letterEffect,
    isRecorded: false,
  }),
  removePassage: end({
    path: '/api/passages/:id',
    summary: 'Delete a passage that no letter uses',
    body: z.object(command).strict(),
    answer: made,
  }),
  letterFacts: ask({
    path: '/api/letter-facts',
    summary: 'What a letter is filled from for a client or a booking',
    query: z
      .object({ clientId: z.string(), bookingId: z.string().optional(), letterId: letterId.optional() })
      .strict(),
    /** `goesAt`: when the letter goes for them, which the words of time are counted from; null: not known, now. */
    answer: z.object({ facts: mergeFactsView, goesAt: instant.nullable() }),
  }),
  letterCandidates: ask({
    path: '/api/letter-candidates',
    summary: 'Clients and bookings to look at a letter with, the hardest first',
    answer: z.object({ candidates: z.array(candidate) }),
  }),
  audience: ask({
    path: '/api/audience',
    summary: 'Clients with their next booking, page by page, to try a letter on',
    query: z.object({ after: z.string().optional() }).strict(),
    answer: z.object({ rows: z.array(audienceRow), next: z.string().nullable(), total: z.number().int() }),
  }),
  sendTestCopy: tell({
    path: '/api/letters/:id/test-copy',
    summary: 'Send a letter as it is written now to the person who asks',
    body: z.object({ ...command, content: letterContent, ...about }).strict(),
    answer: z.object({ address: z.string() }),
  }),
  readLetterFile: tell({
    path: '/api/letter-files',
    summary: 'Read a letter out of a file: JSON of Vorfreude, or a mail (.eml)',
    body: z.object({ name: z.string().max(300), text: z.string().max(900_000) }).strict(),
    answer: z.object({ content: letterContent }),
    isRecorded: false,
  }),
  readMails: tell({
    path: '/api/mail-files',
    summary: 'Read the mails of a file (.eml, mbox): subject and text, to make a letter of one',
    body: z.object({ base64: largeFile }).strict(),
    answer: z.object({
      mails: z.array(
        z.object({ subject: z.string(), from: z.string(), at: instant.nullable(), text: z.string() }),
      ),
      /** The file has more than are read. */
      isCut: z.boolean(),
    }),
    isRecorded: false,
  }),
  addFile: tell({
    path: '/api/files',
    summary: 'Store a picture or a PDF for letters',
    body: z
      .object({
        ...command,
        name: requiredLine(120, 'A file needs a name.'),
        type: z.enum(['image/png', 'image/jpeg', 'image/gif', 'application/pdf']),
        base64: z.string().max(3_000_000),
      })
      .strict(),
    answer: made,
  }),
  addOwnWord: tell({
    path: '/api/own-words',
    summary: 'Remember a word as rightly spelt',
    body: z.object({ ...command, word: requiredLine(60, 'Which word?') }).strict(),
    answer: z.object({ word: z.string() }),
  }),
} as const
