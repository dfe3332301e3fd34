import type { Router } from 'express'
import { fileEndpoints } from '#core/api/fileEndpoints.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { whoAsks } from '../session/whoAsks.ts'
import { give } from './route.ts'

const heartbeatMs = 20_000

/** Server-sent events: tells open pages which topics have changed, so that they fetch those again. */
export function changeRoutes(router: Router, { application }: RunningApplication) {
  const { statements } = application.store
  give(router, statements, fileEndpoints.changes, ({ request, response }) => {
    response.set({
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store, no-transform',
      'X-Accel-Buffering': 'no',
    })
    response.flushHeaders()
    response.write('retry: 1000\n\n')
    const unsubscribe = application.changes.subscribe((topics) => {
      // Who has signed out meanwhile, or was signed out, hears no more.
      if (whoAsks(statements, request) === null) {
        response.end()
        return
      }
      response.write(`event: changed\ndata: ${JSON.stringify(topics)}\n\n`)
    })
    const heartbeat = setInterval(() => response.write(': still here\n\n'), heartbeatMs)
    request.on('close', () => {
      clearInterval(heartbeat)
      unsubscribe()
    })
  })
}
