import { z } from 'zod'
import { clientId } from './client.ts'
import { inline } from './letter.ts'
import { subject } from './subject.ts'
import { idOf, instant, language, oneLine, requiredLine } from './values.ts'

export const documentId = idOf('dc')
export const signingId = idOf('sg')

const paragraphKind = z.enum(['heading', 'text'])

/** A text that clients sign, with merge fields. */
export const signableDocument = z
  .object({
    id: documentId,
    /** What it is called, for clients too; letters and sequences go by it. */
    name: requiredLine(80, 'A document needs a name.'),
    language,
    paragraphs: z
      .array(
        z
          .object({
            kind: paragraphKind,
            content: z.array(inline).min(1, 'A paragraph needs its words.').max(500),
          })
          .strict(),
      )
      .min(1, 'A document needs its text.')
      .max(200, 'At most 200 paragraphs.'),
    /** What is ticked to sign it. */
    consent: requiredLine(300, 'Say what they agree to.'),
    isActive: z.boolean(),
    /** Grows with each change. */
    revision: z.number().int().min(1),
  })
  .strict()
export type SignableDocument = z.infer<typeof signableDocument>

/** A document with its fields filled in, as somebody gets it to sign. */
export const fixedDocument = z
  .object({
    documentId,
    name: z.string(),
    language,
    paragraphs: z.array(z.object({ kind: paragraphKind, text: z.string() }).strict()),
    consent: z.string(),
  })
  .strict()
export type FixedDocument = z.infer<typeof fixedDocument>

/** How somebody signed. */
export const signature = z
  .object({
    at: instant,
    typedName: requiredLine(120, 'Please type your name.'),
    /** The network address it came from. */
    address: oneLine(60),
  })
  .strict()
export type Signature = z.infer<typeof signature>

/** A document that was given to somebody to sign, fixed when it was sent. */
export const signing = z
  .object({
    id: signingId,
    clientId,
    /** What it is about. */
    subject,
    document: fixedDocument,
    /** SHA-256 of its text (FIPS 180-4), in hexadecimal. */
    hash: z.string().regex(/^[0-9a-f]{64}$/),
    fixedAt: instant,
    /** Null: nobody has signed it. */
    signed: signature.nullable(),
  })
  .strict()
export type Signing = z.infer<typeof signing>

/** All that is signed of a document, as one text: its name, its paragraphs, what is agreed to. */
export const textToSign = ({ name, paragraphs, consent }: FixedDocument): string =>
  [name, ...paragraphs.map(({ text }) => text), consent].join('\n\n')
