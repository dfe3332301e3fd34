import rateLimit from 'express-rate-limit'
import type { Request, RequestHandler } from 'express'
import { minuteMs } from '#core/time/calendar.ts'
import { answerProblem, Refusal } from './problems.ts'

/** The names of this machine to itself. */
const loopback: readonly string[] = ['localhost', '127.0.0.1', '[::1]']

/**
 * Requests are for this house only where they name it: by the address at which clients reach it, or by a name of this
 * machine to itself. Another name may have been pointed here by somebody else's page.
 */
export function checkHost(publicUrl: () => string): RequestHandler {
  return (request, response, next) => {
    const host = (request.get('host') ?? '').toLowerCase()
    const name = host.replace(/:\d+$/, '')
    if (loopback.includes(name) || host === new URL(publicUrl()).host) {
      next()
      return
    }
    const sentence =
      'This address is not the one Vorfreude was started with. Open that one, or start it with VORFREUDE_PUBLIC_URL.'
    answerProblem(response, new Refusal('forbidden', sentence))
  }
}

/** Whether a request came to the public address by https: its cookie goes by nothing else then. */
export function isSecure(request: Request, publicUrl: () => string): boolean {
  const { protocol, host } = new URL(publicUrl())
  return protocol === 'https:' && request.get('host')?.toLowerCase() === host
}

interface Limit {
  readonly perWindow: number
  readonly windowMs: number
  /** Whose attempts are counted together. */
  readonly by: (request: Request) => string
  readonly sentence: string
  /** Whether only what was refused counts. */
  readonly countsRefused: boolean
}

const address = (request: Request) => request.ip ?? ''

function limited({ perWindow, windowMs, by, sentence, countsRefused }: Limit): RequestHandler {
  return rateLimit({
    windowMs,
    limit: perWindow,
    skipSuccessfulRequests: countsRefused,
    standardHeaders: true,
    legacyHeaders: false,
    keyGenerator: by,
    validate: false,
    handler: (_, response) => answerProblem(response, new Refusal('too often', sentence)),
  })
}

const tooOften = 'Too many attempts to sign in. Wait a minute, then try again.'

/** Attempts to come in, by the address they come from. */
export const limitPerAddress = () =>
  limited({ perWindow: 10, windowMs: minuteMs, by: address, sentence: tooOften, countsRefused: true })

const accountOf = ({ body }: Request) => {
  const email = (body as { email?: unknown } | undefined)?.email
  return typeof email === 'string' ? email.trim().toLowerCase() : ''
}

/** Attempts on one account, wherever they come from. */
export const limitPerAccount = () =>
  limited({
    perWindow: 20,
    windowMs: 15 * minuteMs,
    by: accountOf,
    sentence: 'Too many attempts to sign in with this address. Wait a quarter of an hour, then try again.',
    countsRefused: true,
  })

/** Requests for a client's own pages. */
export const limitOfClientPages = () =>
  limited({
    perWindow: 60,
    windowMs: minuteMs,
    by: address,
    sentence: 'Too many requests. Wait a minute, then try again.',
    countsRefused: false,
  })
