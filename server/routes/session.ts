import type { Request, Response, Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { sessionLine, type SessionView } from '#core/api/views.ts'
import { readPeople } from '../db/settingsStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { setUp } from '../engine/commands/setUp.ts'
import { hashPassword, passwordFits } from '../session/password.ts'
import { closeSession, openSession, readSession, tokenIn } from '../session/sessions.ts'
import { isSecure } from '../http/doors.ts'
import { limitPerAccount, limitPerAddress } from '../http/rateLimits.ts'
import { isSameSecret } from '../mail/signedLinks.ts'
import { Refusal } from '../http/problems.ts'
import { serve } from './route.ts'

const storedHash = (row: Record<string, unknown> | undefined) =>
  typeof row?.['passwordHash'] === 'string' ? row['passwordHash'] : null

function viewOf({ application, isDemo }: RunningApplication, token: string | null): SessionView {
  const { statements } = application.store
  const session = readSession(statements, token)
  const people = readPeople(statements).filter((one) => one.isActive)
  const business = application.settings.current()?.business ?? null
  return {
    isDemo,
    needsFirstRun: business === null,
    businessName: business?.name ?? null,
    person: people.find((one) => one.id === session?.personId) ?? null,
    csrfToken: session?.csrfToken ?? null,
    people: isDemo ? people : [],
  }
}

/** Coming in and going out. */
export function sessionRoutes(router: Router, running: RunningApplication) {
  const { application, isDemo } = running
  const { statements } = application.store
  const begin = (personId: string, request: Request, response: Response) => {
    const cookie = openSession(statements, {
      personId,
      agent: request.get('user-agent') ?? '',
      isSecure: isSecure(request, running.publicUrl),
    })
    response.append('Set-Cookie', cookie)
    return viewOf(running, tokenIn(cookie))
  }

  router.post(
    ['/api/session', '/api/session/demo', '/api/first-run', '/api/session/password'],
    limitPerAddress(),
  )
  router.post('/api/session', limitPerAccount())

  serve(router, statements, endpoints.session, ({ request }) =>
    viewOf(running, tokenIn(request.headers.cookie)),
  )
  serve(router, statements, endpoints.signIn, async ({ body, request, response }) => {
    const row = statements.one('passwordOf', { email: body.email.trim() })
    const fits = await passwordFits(body.password, storedHash(row))
    if (!row || !fits) throw new Refusal('not signed in', 'This address and password do not fit together.')
    return begin(String(row['id']), request, response)
  })
  serve(router, statements, endpoints.signInToDemo, ({ body, request, response }) => {
    const person = readPeople(statements).find((one) => one.id === body.personId && one.isActive)
    if (!isDemo || !person) throw new Refusal('forbidden', 'Only the demo lets its people in at one press.')
    return begin(person.id, request, response)
  })
  serve(router, statements, endpoints.signOut, ({ request, response }) => {
    response.append(
      'Set-Cookie',
      closeSession(statements, readSession(statements, tokenIn(request.headers.cookie))),
    )
    application.changes.publish(['sessions'])
    return {}
  })
  serve(router, statements, endpoints.firstRun, async ({ body: { word, ...input }, request, response }) => {
    if (!isSameSecret(word.toLowerCase(), running.firstRunWord)) {
      const detail = 'This is not the word that stands in the terminal where Vorfreude was started.'
      throw new Refusal('forbidden', detail, [{ path: 'word', detail }])
    }
    const person = await setUp(application, input)
    return begin(person.id, request, response)
  })
}

/** What a person sees to about their own way in. */
export function ownSessionRoutes(router: Router, { application }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.changePassword, async ({ body, session }) => {
    if (!session) throw new Refusal('not signed in', 'Sign in first.')
    const { id, personId } = session
    const email = readPeople(statements).find((one) => one.id === personId)?.email ?? ''
    if (!(await passwordFits(body.present, storedHash(statements.one('passwordOf', { email }))))) {
      const detail = 'This is not the present password.'
      throw new Refusal('invalid', detail, [{ path: 'present', detail }])
    }
    const passwordHash = await hashPassword(body.password)
    application.store.transaction(() => {
      statements.run('setPassword', { personId, passwordHash })
      statements.run('endOtherSessions', { personId, id })
    })
    application.changes.publish(['sessions'])
    return {}
  })
  serve(router, statements, endpoints.sessions, ({ personId, session }) => ({
    sessions: statements
      .all('sessionsOfPerson', { personId, now: Date.now() })
      .map((row) => sessionLine.parse({ ...row, isThis: row['id'] === session?.id })),
  }))
  serve(router, statements, endpoints.endSession, ({ parameters, personId }) => {
    if (statements.run('endSession', { id: parameters.id, personId }) === 0) {
      throw new Refusal('not found', 'This session has ended already.')
    }
    application.changes.publish(['sessions'])
    return {}
  })
}
