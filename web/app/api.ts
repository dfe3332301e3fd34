import type { z } from 'zod'
import { fillPath, type Endpoint, type PathParameters } from '#core/api/endpoint.ts'
import { doors, type Door } from '#core/api/doors.ts'
import type { Endpoints, ProblemDetails } from '#core/api/endpoints.ts'
import type { Announcement } from '#core/api/announcements.ts'

/** A refusal of the server, with a sentence for people and the fields at fault. */
export class ApiProblem extends Error {
  constructor(readonly details: ProblemDetails) {
    super(details.detail)
  }
}

const unreachable: ProblemDetails = {
  type: 'urn:vorfreude:problem:unreachable',
  title: 'No connection',
  status: 0,
  detail: 'Vorfreude does not answer. Is it still running? Nothing you typed is lost; try again.',
  code: 'unreachable',
}

/** Browsers keep at most 64 KiB alive in all. */
const mostKeptAlive = 16_000

let csrfToken: string | null = null

/** Remembers the session's token, which everything that changes something has to carry. */
export function rememberCsrfToken(token: string | null) {
  csrfToken = token
}

type Query<E extends Endpoint> = z.input<E['query']>
type Body<E extends Endpoint> = z.input<E['body']>
export type Answer<E extends Endpoint> = z.output<E['answer']>

export interface CallArguments<E extends Endpoint> {
  readonly parameters?: PathParameters<E['path']>
  readonly query?: Query<E>
  readonly body?: Body<E>
}

export type EndpointName = keyof Endpoints
export type Of<Name extends EndpointName> = Endpoints[Name]

async function answered(url: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(url, init)
  } catch {
    throw new ApiProblem(unreachable)
  }
}

async function problemOf(response: Response): Promise<ApiProblem> {
  const told = (await response.json().catch(() => null)) as Partial<ProblemDetails> | null
  // What stands between may answer in its own way.
  const isOurs = typeof told?.code === 'string' && typeof told.detail === 'string'
  return new ApiProblem(isOurs ? (told as ProblemDetails) : { ...unreachable, status: response.status })
}

async function answerOf(door: Door, { parameters, query, body }: CallArguments<Endpoint>): Promise<unknown> {
  const given = Object.entries(query ?? {}).filter((pair): pair is [string, string] => pair[1] !== undefined)
  const search = new URLSearchParams(given)
  const path = fillPath(door.path, (parameters ?? {}) as Record<string, string>)
  const hasBody = door.method !== 'GET'
  const text = JSON.stringify(body ?? {})
  const response = await answered(search.size > 0 ? `${path}?${search.toString()}` : path, {
    method: door.method,
    headers: hasBody
      ? { 'Content-Type': 'application/json', ...(csrfToken === null ? {} : { 'X-CSRF-Token': csrfToken }) }
      : {},
    // What was pressed arrives although the page is left at once; browsers allow that for small bodies.
    ...(hasBody ? { body: text, keepalive: text.length < mostKeptAlive } : {}),
  })
  // What was only asked about is answered with the problem it would meet.
  const isProblem = response.headers.get('Content-Type')?.startsWith('application/problem+json')
  if (!response.ok || isProblem) throw await problemOf(response)
  return response.json()
}

/** Acts on one thing go one after the other. */
const turns = new Map<string, Promise<unknown>>()

async function inTurn<Value>(id: string, act: () => Promise<Value>): Promise<Value> {
  const before = turns.get(id)
  const own = before ? before.then(act, act) : act()
  turns.set(id, own)
  try {
    return await own
  } finally {
    if (turns.get(id) === own) turns.delete(id)
  }
}

/** What acts of this page have made of the revisions they named: what is done next builds on that. */
const made = new Map<string, number>()

function newestOf(id: string, revision: number): number {
  const next = made.get(`${id} ${revision}`)
  return next === undefined ? revision : newestOf(id, next)
}

/** Ends when the acts on one thing that are on their way have been answered. */
export async function whenActed(id: string): Promise<void> {
  await turns.get(id)?.catch(() => undefined)
}

/** Whether this page itself has changed a thing since it had a revision. */
export const isChangedHere = (id: string, revision: number) => newestOf(id, revision) !== revision

/** The thing an act is on; null: it is no act, or on no one thing. */
function thingOf({ parameters, body }: CallArguments<Endpoint>): string | null {
  const { id } = (parameters ?? {}) as { id?: unknown }
  const { commandId } = (body ?? {}) as { commandId?: unknown }
  return typeof id === 'string' && commandId !== undefined ? id : null
}

/** The same act, on the newest revision this page knows of what it is on. */
function onNewest(args: CallArguments<Endpoint>): CallArguments<Endpoint> {
  const id = thingOf(args)
  const { revision } = (args.body ?? {}) as { revision?: unknown }
  if (id === null || typeof revision !== 'number') return args
  return { ...args, body: { ...(args.body as object), revision: newestOf(id, revision) } }
}

/** Does an act, and remembers what it made of the revision it was on. */
async function acted(door: Door, id: string, args: CallArguments<Endpoint>): Promise<unknown> {
  const newest = onNewest(args)
  const answer = await answerOf(door, newest)
  const { revision } = newest.body as { revision?: unknown }
  if (typeof revision !== 'number' || !door.saysRevision) return answer
  const { revision: after } = answer as { revision: number }
  if (after !== revision) made.set(`${id} ${revision}`, after)
  return answer
}

/** Calls an endpoint by name. The answer's type is what its handler on the server has to give. */
export async function call<Name extends EndpointName>(
  name: Name,
  args: CallArguments<Of<Name>> = {},
): Promise<Answer<Of<Name>>> {
  const door = doors[name]
  const id = thingOf(args)
  const answer = id === null ? answerOf(door, args) : inTurn(id, () => acted(door, id, args))
  return (await answer) as Answer<Of<Name>>
}

type Bodied = { [Name in EndpointName]: Body<Of<Name>> extends { commandId: string } ? Name : never }
/** The endpoints that are commands: their bodies carry the caller's id of them. */
export type CommandName = Bodied[EndpointName]

/** What a command is told, without its id and without what was shown before. */
export interface CommandArguments<Name extends CommandName> {
  readonly parameters?: PathParameters<Of<Name>['path']>
  readonly body: Omit<Body<Of<Name>>, 'commandId' | 'announcementId' | 'holdBack' | 'onlyAsks'>
}

/** Asks what a command would do; nothing is done. */
export async function consider<Name extends CommandName>(
  name: Name,
  { parameters, body }: CommandArguments<Name>,
): Promise<Announcement> {
  const asked = { ...body, commandId: newCommandId(), onlyAsks: true }
  const args = onNewest({ ...(parameters ? { parameters } : {}), body: asked })
  return (await answerOf(doors[name], args)) as Announcement
}

/** A fresh command id: kept while one and the same act is tried again, so it cannot happen twice. */
export function newCommandId(): string {
  return crypto.randomUUID()
}
