import type { ErrorRequestHandler, Request, Response } from 'express'
import type { Logger } from 'pino'
import type { z } from 'zod'
import type { ProblemDetails } from '#core/api/endpoints.ts'
import type { Problem, ProblemCode } from '#core/model/problem.ts'
import { NotThere } from '#core/planning/slice.ts'
import { NotKept } from '../db/columns.ts'
import { isOfStore, storeSentence } from '../db/storeFault.ts'
import { UnreadableClient } from '../db/unreadable.ts'

const statusOf: Readonly<Record<ProblemCode, number>> = {
  invalid: 422,
  malformed: 400,
  'not found': 404,
  'not allowed now': 409,
  'changed meanwhile': 409,
  'no seats left': 409,
  'not signed in': 401,
  forbidden: 403,
  'too large': 413,
  'too often': 429,
  refused: 409,
  busy: 503,
}

const titleOf: Readonly<Record<ProblemCode, string>> = {
  invalid: 'Something in the request needs another value',
  malformed: 'The request cannot be read',
  'not found': 'Not found',
  'not allowed now': 'Not possible as things stand',
  'changed meanwhile': 'Changed meanwhile',
  'no seats left': 'No seats left',
  'not signed in': 'Not signed in',
  forbidden: 'Not allowed',
  'too large': 'Too large',
  'too often': 'Too many attempts',
  refused: 'Refused',
  busy: 'Not possible just now',
}

/** A refusal on its way to the caller. */
export class Refusal extends Error {
  constructor(
    readonly code: ProblemCode,
    sentence: string,
    readonly faults: readonly { path: string; detail: string }[] = [],
  ) {
    super(sentence)
  }
}

export function refusalOf({ code, sentence, field }: Problem): Refusal {
  return new Refusal(code, sentence, field === null ? [] : [{ path: field, detail: sentence }])
}

/** What Zod found wrong, each with its path, the first one as the sentence. */
export function refusalOfSchema(error: z.ZodError): Refusal {
  const faults = error.issues.map(({ path, message }) => ({ path: path.join('.'), detail: message }))
  const first = faults[0]
  const sentence = first
    ? `${first.path === '' ? '' : `${first.path}: `}${first.detail}`
    : 'The request is not valid.'
  return new Refusal('invalid', sentence, faults)
}

/** What was only asked about has been answered, also where the answer is that it would be refused. */
const answersToAsking: readonly number[] = [404, 409, 422]

const onlyAsks = ({ body }: Request) => (body as { onlyAsks?: unknown } | undefined)?.onlyAsks === true

export function answerProblem(response: Response, refusal: Refusal) {
  const details: ProblemDetails = {
    type: `urn:vorfreude:problem:${refusal.code.replaceAll(' ', '-')}`,
    title: titleOf[refusal.code],
    status: statusOf[refusal.code],
    detail: refusal.message,
    code: refusal.code,
    ...(refusal.faults.length > 0 ? { errors: [...refusal.faults] } : {}),
  }
  const isAnswer = onlyAsks(response.req) && answersToAsking.includes(details.status)
  response
    .status(isAnswer ? 200 : details.status)
    .type('application/problem+json')
    .send(JSON.stringify(details))
}

interface BodyFault {
  readonly type?: string
  readonly status?: number
}

const dependsOnMore =
  'Something this depends on is not there or cannot be read, so nothing was changed. Trouble on the Desk names it.'

function asRefusal(fault: unknown): Refusal | null {
  if (fault instanceof Refusal) return fault
  if (fault instanceof UnreadableClient) return new Refusal('not allowed now', fault.message)
  if (fault instanceof NotThere) return new Refusal('not allowed now', dependsOnMore)
  if (isOfStore(fault)) return new Refusal('busy', storeSentence(fault))
  if (fault instanceof NotKept) {
    return new Refusal('invalid', `This cannot be kept. ${fault.message}`, [
      { path: fault.path, detail: fault.fault },
    ])
  }
  const { type, status } = fault as BodyFault
  if (type === 'entity.too.large') return new Refusal('too large', 'The request is larger than 1 MB.')
  if (type === 'entity.parse.failed') return new Refusal('malformed', 'The body is not JSON.')
  return status !== undefined && status >= 400 && status < 500
    ? new Refusal('malformed', 'The request cannot be read.')
    : null
}

/** The last stop of every fault: refusals are answered, the unexpected is logged under the request's id and never shown. */
export function answerFaults(log: Logger): ErrorRequestHandler {
  return (fault, request, response, next) => {
    if (response.headersSent) {
      next(fault)
      return
    }
    const refusal = asRefusal(fault)
    if (refusal) {
      answerProblem(response, refusal)
      return
    }
    const requestId = request.get('x-request-id') ?? ''
    log.error({ err: fault as Error, requestId, path: request.path }, 'unexpected fault')
    response
      .status(500)
      .type('application/problem+json')
      .send(
        JSON.stringify({
          type: 'urn:vorfreude:problem:unexpected',
          title: 'Something went wrong here',
          status: 500,
          detail: `This is our fault, not yours. Nothing was changed. It is noted in the log under ${requestId}.`,
          code: 'unexpected',
        } satisfies ProblemDetails),
      )
  }
}
