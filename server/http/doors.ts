import type { Request, RequestHandler } from 'express'
import type { Statements } from '../db/statements.ts'
import { whoAsks } from '../session/whoAsks.ts'
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

/** Large bodies are read for whoever is signed in; of everybody else they are too large. */
export const ofSignedIn =
  (statements: Statements, reads: RequestHandler): RequestHandler =>
  (request, response, next) => {
    if (whoAsks(statements, request)) void reads(request, response, next)
    else next()
  }

/** Whether a request names this machine as it names itself. */
export const isAtHome = (request: Request) =>
  loopback.includes((request.get('host') ?? '').toLowerCase().replace(/:\d+$/, ''))

/** Whether a request came to the public address by https: its cookie goes by nothing else then. */
export function isSecure(request: Request, publicUrl: () => string): boolean {
  const { protocol, host } = new URL(publicUrl())
  return protocol === 'https:' && request.get('host')?.toLowerCase() === host
}
