import type { Router } from 'express'
import type { RunningOffice } from '../engine/runningOffice.ts'
import { Refusal } from '../http/problems.ts'
import { authenticate } from './route.ts'

const heartbeatMs = 20_000

/** Server-sent events: tells open pages which topics have changed, so that they fetch those again. */
export function changeRoutes(router: Router, { office }: RunningOffice) {
  router.get('/api/changes', (request, response) => {
    if (authenticate(office.store.statements, request) === null)
      throw new Refusal('not signed in', 'Sign in first.')
    response.set({
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      'X-Accel-Buffering': 'no',
    })
    response.flushHeaders()
    response.write('retry: 1000\n\n')
    const unsubscribe = office.changes.subscribe((topics) => {
      response.write(`event: changed\ndata: ${JSON.stringify(topics)}\n\n`)
    })
    const heartbeat = setInterval(() => response.write(': still here\n\n'), heartbeatMs)
    request.on('close', () => {
      clearInterval(heartbeat)
      unsubscribe()
    })
  })
}
