import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { sentMails } from '../mail/sentMail.ts'
import { serve, valueOf } from './route.ts'

/** So many are listed; more are only counted. */
const mostUnknown = 200

/** What went out, by what an account kept of it. */
export function sentMailRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.compareSent, ({ body, called }) => {
    const mails = sentMails(Buffer.from(body.base64, 'base64'))
    const now = application.clock.now()
    const own = new Map(mails.flatMap(({ sendId, at }) => (sendId === null ? [] : [[sendId, at ?? now]])))
    const { noted, known, knownIds } = valueOf(commands.compareSent(called('compareSent'), own))
    const here = new Set(knownIds)
    const unknown = mails.filter(({ sendId }) => sendId !== null && !here.has(sendId))
    return {
      noted,
      known,
      unknown: unknown.slice(0, mostUnknown).map(({ to, at }) => ({ to, at })),
      unknownCount: unknown.length,
      others: mails.filter(({ sendId }) => sendId === null).length,
    }
  })
}
