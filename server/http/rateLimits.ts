import type { Request, RequestHandler, Response } from 'express'
import rateLimit, { ipKeyGenerator } from 'express-rate-limit'
import { minuteMs } from '#core/time/calendar.ts'
import { answerProblem, Refusal } from './problems.ts'

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

/** Requests for pages of clients: who looks for a time leafs through months and days. */
export const limitOfClientPages = (perWindow: 60 | 300) =>
  limited({
    perWindow,
    windowMs: minuteMs,
    by: address,
    sentence: 'Too many requests. Wait a minute, then try again.',
    countsRefused: false,
  })

/** Notes that there were too many that came to something; the page says so itself, with what was typed. */
function noted(perWindow: number, windowMs: number, by: (request: Request) => string): RequestHandler {
  return rateLimit({
    windowMs,
    limit: perWindow,
    // Who makes mistakes is no program.
    skipFailedRequests: true,
    standardHeaders: true,
    legacyHeaders: false,
    keyGenerator: by,
    validate: false,
    handler: (_, response, next) => {
      ;(response as Response<unknown, { wasTooOften?: boolean }>).locals.wasTooOften = true
      next()
    },
  })
}

export const wasTooOften = (response: Response<unknown, { wasTooOften?: boolean }>) =>
  response.locals.wasTooOften === true

/** Bookings on the public page from one network: an address, or the subnet a line gets (RFC 6177). */
export const limitBookingsByNetwork = () =>
  noted(20, 15 * minuteMs, ({ ip }) => (ip === undefined ? '' : ipKeyGenerator(ip)))

/** Bookings on the public page for one e-mail address. */
export const limitBookingsByAccount = () => noted(6, 15 * minuteMs, accountOf)
