import { createHash } from 'node:crypto'
import type { Request, RequestHandler, Response, Router } from 'express'
import { z } from 'zod'
import { command, unconsidered } from '#core/api/described.ts'
import { keyScopeWords, type KeyScope } from '#core/model/apiKey.ts'
import { announcement } from '#core/api/announcements.ts'
import type { Access, Endpoint, FileEndpoint, PathParameters } from '#core/api/endpoint.ts'
import type { Result } from '#core/model/problem.ts'
import type { ChangedThing } from '#core/insight/acts.ts'
import { noteAct, noteLook } from '../record/recordActs.ts'
import { Asked } from '../engine/considering/considering.ts'
import type { Statements } from '../db/statements.ts'
import { callOf, type CommandCall } from '../engine/application.ts'
import type { Session } from '../session/sessions.ts'
import { keyIn, whoAsks } from '../session/whoAsks.ts'
import { Refusal, refusalOf, refusalOfSchema } from '../http/problems.ts'

/** What a handler gets: everything validated. */
export interface Call<Path extends string, Query extends z.ZodType, Body extends z.ZodType> {
  readonly parameters: PathParameters<Path>
  readonly query: z.output<Query>
  readonly body: z.output<Body>
  /** The command a request is, by name, under the id the page gave it and with what was shown before. */
  readonly called: (name: string) => CommandCall
  /** Who asks; null only where anybody may. */
  readonly personId: string | null
  /** The session it is asked in; null only where anybody may. */
  readonly session: Session | null
  readonly request: Request
  readonly response: Response
}

type Handler<E extends Endpoint> = (
  call: Call<E['path'], E['query'], E['body']>,
) => z.output<E['answer']> | Promise<z.output<E['answer']>>

function checked<Schema extends z.ZodType>(schema: Schema, value: unknown): z.output<Schema> {
  const parsed = schema.safeParse(value)
  if (!parsed.success) throw refusalOfSchema(parsed.error)
  return parsed.data
}

/** The parameters of a path; what cannot be the name of anything leads nowhere. */
function named({ parameters }: Pick<Endpoint, 'parameters'>, request: Request): unknown {
  const parsed = parameters.safeParse(request.params)
  if (parsed.success) return parsed.data
  const { message } = refusalOfSchema(parsed.error)
  throw new Refusal('not found', `There is nothing at ${request.path}. ${message}`)
}

/** Who asks. What changes something from a browser must also carry the session's CSRF token. */
function authenticate(statements: Statements, request: Request): Session {
  const session = whoAsks(statements, request)
  if (!session && keyIn(request.headers.authorization) !== null) {
    request.res?.set('WWW-Authenticate', 'Bearer')
    throw new Refusal('not signed in', 'This key is not known, has ended or was taken back.')
  }
  if (!session) throw new Refusal('not signed in', 'Sign in first.')
  if (session.key === null && request.method !== 'GET' && request.get('x-csrf-token') !== session.csrfToken) {
    throw new Refusal(
      'forbidden',
      'The request does not carry the token of this session. Load the page again.',
    )
  }
  return session
}

const commandBody = z.object({ ...command }).loose()

/** What does not tell one act from another: its own id, what was shown before it, and what it is done to. */
const aside: readonly string[] = ['commandId', 'announcementId', 'onlyAsks', 'revision', 'version']

/** Nothing from which a password could be guessed is kept. */
const withoutPassword = (name: string, value: unknown): unknown => (name === 'password' ? '' : value)

/** Tells what is asked for apart from anything else that could be asked under the same id. */
function hashOf(parameters: unknown, body: object): string {
  const asked = Object.entries(body).filter(([name]) => !aside.includes(name))
  return createHash('sha256')
    .update(JSON.stringify([parameters, asked], withoutPassword))
    .digest('hex')
}

function calledBy(
  parameters: unknown,
  body: unknown,
  personId: string | null,
  onChanged: (things: readonly ChangedThing[]) => void,
) {
  return (name: string): CommandCall => {
    const parsed = checked(commandBody, body)
    const { commandId, announcementId, holdBack, onlyAsks } = parsed
    const considered = { announcementId, holdBack, onlyAsks }
    return { id: commandId, personId, name, bodyHash: hashOf(parameters, parsed), considered, onChanged }
  }
}

/** A command that is only asked about. */
export const asking = (name: string, personId: string | null): CommandCall => ({
  ...callOf(name, '', personId),
  considered: { ...unconsidered, onlyAsks: true },
})

/** What a command that was only asked about would do, and what it would answer. */
export function askedOf(act: () => unknown): Asked {
  try {
    act()
  } catch (fault) {
    if (fault instanceof Asked) return fault
    throw fault
  }
  throw new Error('What is asked about was carried out')
}

/** The value of a result, or its problem thrown as a refusal. */
export function valueOf<Value>(result: Result<Value>): Value {
  if (!result.ok) throw refusalOf(result.problem)
  return result.value
}

/** What each scope of a key lets be asked. */
const reachOf: Readonly<Record<KeyScope, readonly Access[]>> = {
  look: ['signed in'],
  work: ['signed in', 'team'],
  everything: ['signed in', 'team', 'owner'],
}

/** Refuses what a key must not ask, whoever it belongs to. */
function checkKey(
  { name, scope }: NonNullable<Session['key']>,
  { access, byKey }: Pick<Endpoint, 'access' | 'byKey'>,
  request: Request,
) {
  if (!byKey) {
    throw new Refusal('forbidden', 'No key can do this: sign in and do it on the page.')
  }
  if (reachOf[scope].includes(access) && (scope !== 'look' || request.method === 'GET')) return
  throw new Refusal('forbidden', `The key “${name}” does not reach that far: ${keyScopeWords[scope]}.`)
}

/** What was done by a key is told as that. */
const byWhat = (summary: string, session: Session | null) =>
  session?.key ? `${summary} · by the key “${session.key.name}”` : summary

/** The session of somebody who may ask; null only where anybody may. */
function letIn(
  statements: Statements,
  request: Request,
  { access, byKey }: Pick<Endpoint, 'access' | 'byKey'>,
): Session | null {
  if (access === 'anybody') return null
  const session = authenticate(statements, request)
  if (session.key !== null) checkKey(session.key, { access, byKey }, request)
  if (access === 'owner' && session.role !== 'owner') {
    throw new Refusal('forbidden', 'Only the owner can do this. Ask them.')
  }
  if (access === 'team' && session.role === 'onlooker') {
    throw new Refusal('forbidden', 'You look only: nothing can be changed by you. Ask the owner.')
  }
  return session
}

/** Who only looks is written down with each client, booking or message they look at. */
const isLookAtOne = ({ method, path }: Pick<Endpoint, 'method' | 'path'>, session: Session | null) =>
  method === 'GET' && session?.role === 'onlooker' && path.includes('/:')

/** What a file is given out for: everything validated. */
export interface FileCall<Path extends string, Query extends z.ZodType> {
  readonly parameters: PathParameters<Path>
  readonly query: z.output<Query>
  readonly session: Session
  readonly request: Request
  readonly response: Response
}

/** Ties a handler to what it gives out, in a format of its own, to the team. */
export function give<Path extends string, Query extends z.ZodType>(
  router: Router,
  statements: Statements,
  endpoint: FileEndpoint<Path, Query>,
  handle: (call: FileCall<Path, Query>) => void | Promise<void>,
) {
  router.get(endpoint.path, async (request, response) => {
    const session = letIn(statements, request, { ...endpoint, byKey: true })
    if (!session) return
    if (isLookAtOne({ ...endpoint, method: 'GET' }, session)) {
      noteLook(response, {
        personId: session.personId,
        sentence: byWhat(endpoint.summary, session),
        path: request.path,
        things: [],
      })
    }
    await handle({
      parameters: named(endpoint, request) as PathParameters<Path>,
      query: checked(endpoint.query, request.query),
      session,
      request,
      response,
    })
  })
}

/** Ties a handler to its endpoint: validate, call, answer; the answer is validated too. */
export function serve<E extends Endpoint>(
  router: Router,
  statements: Statements,
  endpoint: E,
  handle: Handler<E>,
) {
  const run: RequestHandler = async (request, response) => {
    const session = letIn(statements, request, endpoint)
    const personId = session?.personId ?? null
    const body = checked(endpoint.body, (request.body as unknown) ?? {}) as z.output<E['body']>
    const parameters = named(endpoint, request) as PathParameters<E['path']>
    const acts: (readonly ChangedThing[])[] = []
    const commands: string[] = []
    const answer = await handle({
      called: (name) => {
        commands.push(name)
        return calledBy(parameters, body, personId, (things) => void acts.push(things))(name)
      },
      parameters,
      query: checked(endpoint.query, request.query) as z.output<E['query']>,
      body,
      personId,
      session,
      request,
      response,
    })
    const sentence = byWhat(endpoint.summary, session)
    const act = { personId, sentence, path: request.path, things: acts.flat() }
    // Sent once more it has been done already.
    const isDone = commands.length === 0 || acts.length > 0
    if (endpoint.isRecorded && isDone) noteAct(response, act)
    else if (isLookAtOne(endpoint, session)) noteLook(response, act)
    response.json(endpoint.answer.parse(answer))
  }
  const method = endpoint.method.toLowerCase() as 'get' | 'post' | 'put' | 'delete'
  router[method](endpoint.path, (request, response, next) =>
    Promise.resolve(run(request, response, next)).catch((fault: unknown) => {
      if (fault instanceof Asked) response.json(announcement.parse(fault.announcement))
      else next(fault)
    }),
  )
}
