import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { readPeople } from '../db/settingsStore.ts'
import type { Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import {
  beginSecondFactor,
  confirmSecondFactor,
  endSecondFactor,
  hasSecondFactor,
  type SecondFactors,
} from '../session/secondFactor.ts'
import { checkOwnPassword } from './ownPassword.ts'
import { serve } from './route.ts'

export const secondFactorsOf = ({ store }: Application): SecondFactors => ({
  statements: store.statements,
  key: store.keys.secondFactors,
})

/** The code of an authenticator that the person who is signed in gives besides the password. */
export function secondFactorRoutes(router: Router, { application }: RunningApplication) {
  const { statements } = application.store
  const factors = secondFactorsOf(application)
  const changed = () => application.changes.publish(['sessions', 'settings'])
  serve(router, statements, endpoints.secondFactor, ({ personId }) => ({
    isOn: hasSecondFactor(factors, personId ?? ''),
    recoveryWordsLeft: Number(statements.one('recoveryWordsLeft', { personId: personId ?? '' })?.['count']),
  }))
  serve(router, statements, endpoints.beginSecondFactor, async ({ body, session }) => {
    const { personId } = await checkOwnPassword(statements, session, body.present)
    if (hasSecondFactor(factors, personId)) {
      throw new Refusal('not allowed now', 'A code is asked for already. Switch it off first.')
    }
    return beginSecondFactor(factors, personId, {
      issuer: application.settings.required().business.name,
      label: readPeople(statements).find(({ id }) => id === personId)?.email ?? '',
    })
  })
  serve(router, statements, endpoints.confirmSecondFactor, ({ body, personId }) => {
    const recoveryWords = application.store.transaction(() =>
      confirmSecondFactor(factors, personId ?? '', body.code),
    )
    if (!recoveryWords) {
      const detail =
        'This is not the code that is shown now. Look again, and whether the clocks of both machines are right.'
      throw new Refusal('invalid', detail, [{ path: 'code', detail }])
    }
    changed()
    return { recoveryWords }
  })
  serve(router, statements, endpoints.endSecondFactor, async ({ body, session }) => {
    const { personId } = await checkOwnPassword(statements, session, body.present)
    application.store.transaction(() => endSecondFactor(factors, personId))
    changed()
    return {}
  })
}
