import { z } from 'zod'
import type { Access, Endpoint, FileEndpoint } from './endpoint.ts'
import { parametersOf } from './parameters.ts'

export const nothing = z.object({}).strict()

interface Described<
  Path extends string,
  Query extends z.ZodType,
  Body extends z.ZodType,
  Answer extends z.ZodType,
> {
  readonly path: Path
  readonly summary: string
  readonly answer: Answer
  readonly query?: Query
  readonly body?: Body
  readonly access?: Access
  readonly isRecorded?: boolean
  readonly byKey?: boolean
}

type Nothing = typeof nothing

function described<Method extends Endpoint['method']>(method: Method) {
  return <
    Path extends string,
    Answer extends z.ZodType,
    Query extends z.ZodType = Nothing,
    Body extends z.ZodType = Nothing,
  >(
    of: Described<Path, Query, Body, Answer>,
  ): Endpoint<Path, Query, Body, Answer> & { readonly method: Method } => ({
    access: method === 'GET' ? 'signed in' : 'team',
    isRecorded: method !== 'GET',
    byKey: true,
    ...of,
    method,
    parameters: parametersOf(of.path),
    query: of.query ?? (nothing as unknown as Query),
    body: of.body ?? (nothing as unknown as Body),
  })
}

export const ask = described('GET')
export const tell = described('POST')
export const change = described('PUT')
export const end = described('DELETE')

/** A file that is given out to the team. */
export function giveOut<Path extends string, Query extends z.ZodType = Nothing>(of: {
  readonly path: Path
  readonly summary: string
  readonly type: string
  readonly query?: Query
  readonly access?: Access
}): FileEndpoint<Path, Query> {
  return {
    access: 'signed in',
    ...of,
    parameters: parametersOf(of.path),
    query: of.query ?? (nothing as unknown as Query),
  }
}

/** The caller's own id of a command: sent again, it has no second effect. */
const commandId = z
  .string()
  .regex(/^[A-Za-z0-9-]{8,64}$/, 'A command id has 8 to 64 letters, digits or hyphens.')

/**
 * What was shown before an act, and which of its messages wait for a person all the same. `onlyAsks`: nothing is done,
 * and the answer is what it would do.
 */
const considered = {
  announcementId: z.string().max(64).nullable().default(null),
  holdBack: z.array(z.string().max(400)).max(100, 'At most 100 messages at once.').default([]),
  onlyAsks: z.boolean().default(false),
}
export type Considered = z.output<z.ZodObject<typeof considered>>
export const unconsidered: Considered = { announcementId: null, holdBack: [], onlyAsks: false }

export const command = { commandId, ...considered }
export const commandOn = { ...command, revision: z.number().int().min(1) }

/** Which part of a list: so many lines from the one after another on. */
export const part = {
  after: z.string().max(64).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(60),
}

/** The same of a list whose lines have numbers; the sentence says that to who gives none. */
export const numberedPart = (sentence: string) => ({
  ...part,
  after: z
    .string()
    .regex(/^\d{1,15}$/, sentence)
    .optional(),
})

/** A file of up to 20 MB as base64 (RFC 4648 4). */
export const largeFile = z.string().max(28_000_000, 'At most 20 MB.')

export const made = z.object({ id: z.string() })
export const changed = z.object({ id: z.string(), revision: z.number().int() })
