import rateLimit from 'express-rate-limit'
import type { Request, Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import type { SessionView } from '#core/api/views.ts'
import { readPeople } from '../db/settingsStore.ts'
import type { RunningOffice } from '../engine/runningOffice.ts'
import { setUp } from '../engine/setUp.ts'
import { passwordFits } from '../session/password.ts'
import { closeSession, openSession, readSession, tokenIn } from '../session/sessions.ts'
import { answerProblem, Refusal } from '../http/problems.ts'
import { serve } from './route.ts'

const tooOften = 'Too many attempts to sign in. Wait a minute, then try again.'

export function sessionRoutes(router: Router, running: RunningOffice) {
  const { office, isDemo } = running
  const { statements } = office.store

  const view = (token: string | null): SessionView => {
    const session = readSession(statements, token)
    const people = readPeople(statements).filter((one) => one.isActive)
    const business = office.settings.current()?.business ?? null
    return {
      isDemo,
      needsFirstRun: business === null,
      businessName: business?.name ?? null,
      person: people.find((one) => one.id === session?.personId) ?? null,
      csrfToken: session?.csrfToken ?? null,
      people: isDemo ? people : [],
    }
  }
  const signIn = (personId: string, response: { append(name: string, value: string): unknown }) => {
    const cookie = openSession(statements, personId)
    response.append('Set-Cookie', cookie)
    return view(tokenIn(cookie))
  }

  router.post(
    ['/api/session', '/api/session/demo', '/api/first-run'],
    rateLimit({
      windowMs: 60_000,
      limit: 10,
      skipSuccessfulRequests: true,
      standardHeaders: true,
      legacyHeaders: false,
      keyGenerator: (request: Request) => request.socket.remoteAddress ?? '',
      validate: false,
      handler: (_, response) => answerProblem(response, new Refusal('too often', tooOften)),
    }),
  )

  serve(router, statements, endpoints.session, ({ request }) => view(tokenIn(request.headers.cookie)))
  serve(router, statements, endpoints.signIn, async ({ body, response }) => {
    const row = statements.one('passwordOf', { email: body.email.trim() })
    const stored = row?.['passwordHash']
    const fits = await passwordFits(body.password, typeof stored === 'string' ? stored : null)
    if (!row || !fits) throw new Refusal('not signed in', 'This address and password do not fit together.')
    return signIn(String(row['id']), response)
  })
  serve(router, statements, endpoints.signInToDemo, ({ body, response }) => {
    const person = readPeople(statements).find((one) => one.id === body.personId && one.isActive)
    if (!isDemo || !person) throw new Refusal('forbidden', 'Only the demo lets its people in at one press.')
    return signIn(person.id, response)
  })
  serve(router, statements, endpoints.signOut, ({ request, response }) => {
    response.append('Set-Cookie', closeSession(statements, tokenIn(request.headers.cookie)))
    return {}
  })
  serve(router, statements, endpoints.firstRun, async ({ body, response }) => {
    const person = await setUp(office, body)
    return signIn(person.id, response)
  })
}
