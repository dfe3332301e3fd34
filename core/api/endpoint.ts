import type { z } from 'zod'

/** One thing the server can be asked, described once for the server, the pages and the OpenAPI document. */
export interface Endpoint<
  Path extends string = string,
  Query extends z.ZodType = z.ZodType,
  Body extends z.ZodType = z.ZodType,
  Answer extends z.ZodType = z.ZodType,
> {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE'
  /** With its parameters written as `:name`. */
  readonly path: Path
  readonly summary: string
  /** What the parameters of its path have to be. */
  readonly parameters: z.ZodObject
  readonly query: Query
  readonly body: Body
  readonly answer: Answer
  readonly access: Access
  /** Whether it stands in the record of acts: what only looks, or is written down meanwhile, does not. */
  readonly isRecorded: boolean
  /** Whether other programs may ask it by a key; what lets people in is for people alone. */
  readonly byKey: boolean
}

/**
 * Who may ask: anybody; whoever is signed in, also those who only look; those of the team who do its work; its owners.
 */
export type Access = 'anybody' | 'signed in' | 'team' | 'owner'

/** A file the server gives out, in a format of its own. */
export interface FileEndpoint<Path extends string = string, Query extends z.ZodType = z.ZodType> {
  readonly path: Path
  readonly summary: string
  readonly parameters: z.ZodObject
  readonly query: Query
  /** Its media type. */
  readonly type: string
  readonly access: Access
}

/** A page for a client, reached by the link in a message and without signing in. */
export interface ClientPageEndpoint {
  readonly methods: readonly ('GET' | 'POST')[]
  readonly path: string
  readonly summary: string
  readonly type: string
}

/** The names of the parameters in a path. */
export type PathParameters<Path extends string> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? { readonly [Key in Name]: string } & PathParameters<`/${Rest}`>
  : Path extends `${string}:${infer Name}`
    ? { readonly [Key in Name]: string }
    : object

/** A path with its parameters filled in, each encoded. */
export function fillPath(path: string, parameters: Readonly<Record<string, string>>): string {
  return path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(parameters[name] ?? ''))
}
