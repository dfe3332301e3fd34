import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { apiKeyLine } from '#core/api/keyEndpoints.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { mostKeys, openKey } from '../session/apiKeys.ts'
import { checkOwnPassword } from './ownPassword.ts'
import { serve } from './route.ts'

/** Keys by which other programs ask for the person who is signed in. */
export function keyRoutes(router: Router, { application, isDemo }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.apiKeys, ({ session }) => {
    const personId = session?.role === 'owner' ? null : (session?.personId ?? '')
    return { keys: statements.all('apiKeys', { personId }).map((row) => apiKeyLine.parse(row)) }
  })
  serve(router, statements, endpoints.makeApiKey, async ({ body, session }) => {
    // The people of the demo have no passwords.
    if (!isDemo) await checkOwnPassword(statements, session, body.present)
    const personId = session?.personId ?? ''
    return application.store.transaction(() => {
      if (Number(statements.one('apiKeysOfPerson', { personId })?.count) >= mostKeys) {
        const sentence = `There are ${mostKeys} keys already. Take one back that is not used any more.`
        throw new Refusal('not allowed now', sentence)
      }
      application.changes.publish(['sessions'])
      return openKey(statements, personId, body.key)
    })
  })
  serve(router, statements, endpoints.endApiKey, ({ parameters: { id }, session }) => {
    const personId = session?.role === 'owner' ? null : (session?.personId ?? '')
    if (statements.run('endApiKey', { id, personId }) === 0) {
      throw new Refusal('not found', 'There is no such key, or it was taken back already.')
    }
    application.changes.publish(['sessions'])
    return {}
  })
}
