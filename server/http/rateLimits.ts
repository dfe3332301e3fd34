import type { NextFunction, Request, RequestHandler, Response } from 'express'
import rateLimit, { ipKeyGenerator } from 'express-rate-limit'
import { minuteMs } from '#core/time/calendar.ts'
import { hashOfToken } from '../session/sessions.ts'
import { answerProblem, Refusal } from './problems.ts'

interface Window {
  readonly perWindow: number
  readonly windowMs: number
  /** Whose attempts are counted together. */
  readonly by: (request: Request) => string
  /** Which attempts count. */
  readonly counts: 'all' | 'refused' | 'done'
}

type TooOften = (response: Response, next: NextFunction) => void

const windowed = ({ perWindow, windowMs, by, counts }: Window, tooOften: TooOften): RequestHandler =>
  rateLimit({
    windowMs,
    limit: perWindow,
    skipSuccessfulRequests: counts === 'refused',
    skipFailedRequests: counts === 'done',
    standardHeaders: true,
    legacyHeaders: false,
    keyGenerator: by,
    validate: false,
    handler: (_, response, next) => tooOften(response, next),
  })

const address = (request: Request) => request.ip ?? ''

/** Refuses what comes too often, with a sentence. */
const limited = ({ sentence, ...window }: Window & { readonly sentence: string }) =>
  windowed(window, (response) => answerProblem(response, new Refusal('too often', sentence)))

const tooOften = 'Too many attempts to sign in. Wait a minute, then try again.'

/** Attempts to come in, by the address they come from. */
export const limitPerAddress = () =>
  limited({ perWindow: 10, windowMs: minuteMs, by: address, sentence: tooOften, counts: 'refused' })

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
    counts: 'refused',
  })

/** Mails that are asked for by somebody who is not signed in. */
export const limitForgotten = () =>
  limited({
    perWindow: 5,
    windowMs: 15 * minuteMs,
    by: address,
    sentence: 'Too many links were asked for. Look into the mailbox, or wait a quarter of an hour.',
    counts: 'all',
  })

/** Requests for pages of clients: who looks for a time leafs through months and days. */
export const limitOfClientPages = (perWindow: 60 | 300 | 1200) =>
  limited({
    perWindow,
    windowMs: minuteMs,
    by: address,
    sentence: 'Too many requests. Wait a minute, then try again.',
    counts: 'all',
  })

/** Only what comes by a key is counted. */
const ofKeys =
  (limit: RequestHandler): RequestHandler =>
  (request, response, next) => {
    if (request.headers.authorization === undefined) next()
    else void limit(request, response, next)
  }

/** Requests by one key: a program may be quick, and leaves the others their turn. */
export const limitByKey = () =>
  ofKeys(
    limited({
      perWindow: 300,
      windowMs: minuteMs,
      by: ({ headers }) => hashOfToken(headers.authorization ?? ''),
      sentence: 'Too many requests by this key: 300 a minute. Wait as long as Retry-After says.',
      counts: 'all',
    }),
  )

/** Refused requests by keys, by the address they come from: keys are not found by trying. */
export const limitWrongKeys = () =>
  ofKeys(
    limited({
      perWindow: 60,
      windowMs: minuteMs,
      by: address,
      sentence: 'Too many refused requests from this address. Wait a minute, then try again.',
      counts: 'refused',
    }),
  )

type Noted = Response<unknown, { wasTooOften?: boolean }>

/**
 * Notes that too many came to something; the page says so itself, with what was typed. Who makes mistakes is no program.
 */
const noted = (perWindow: number, by: Window['by']) =>
  windowed({ perWindow, windowMs: 15 * minuteMs, by, counts: 'done' }, (response, next) => {
    ;(response as Noted).locals.wasTooOften = true
    next()
  })

export const wasTooOften = (response: Noted) => response.locals.wasTooOften === true

/** Bookings on the public page from one network: an address, or the subnet a line gets (RFC 6177). */
export const limitBookingsByNetwork = () =>
  noted(20, ({ ip }) => (ip === undefined ? '' : ipKeyGenerator(ip)))

/** Bookings on the public page for one e-mail address. */
export const limitBookingsByAccount = () => noted(6, accountOf)
