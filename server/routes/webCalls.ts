import type { Router } from 'express'
import { callLine } from '#core/api/callEndpoints.ts'
import { endpoints } from '#core/api/endpoints.ts'
import { isSet } from '../db/columns.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { repeatCall } from '../engine/sending/webCalls.ts'
import { checkOwnPassword } from './ownPassword.ts'
import { inParts } from './parts.ts'
import { serve, valueOf } from './route.ts'

/** Calls to web addresses: as they went, and once more. */
export function webCallRoutes(router: Router, { application, isDemo }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.webCalls, ({ query }) =>
    inParts(query, ({ afterId, limit }) =>
      statements
        .all('webCalls', { afterId: afterId === null ? null : Number(afterId), limit })
        .map((row) => callLine.parse({ ...row, id: String(row.id), isLast: isSet(row.isLast) })),
    ),
  )
  serve(router, statements, endpoints.callAgain, async ({ parameters: { id }, called }) =>
    valueOf(await repeatCall(application, called('callAgain'), id)),
  )
  serve(router, statements, endpoints.callSecret, async ({ body, session }) => {
    // The people of the demo have no passwords.
    if (!isDemo) await checkOwnPassword(statements, session, body.present)
    return { secret: application.store.keys.webCalls }
  })
}
