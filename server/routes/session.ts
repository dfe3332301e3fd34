import type { Request, Response, Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { sessionLine, type SessionView } from '#core/api/views.ts'
import { readPeople } from '../db/settingsStore.ts'
import type { Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { setUp } from '../engine/commands/setUp.ts'
import { hashPassword, passwordFits } from '../session/password.ts'
import { hasSecondFactor, secondFactorFits } from '../session/secondFactor.ts'
import { closeSession, openSession, readSession, tokenIn } from '../session/sessions.ts'
import { readWayIn, useUpWayIn } from '../session/waysIn.ts'
import { isSecure } from '../http/doors.ts'
import { limitPerAccount, limitPerAddress } from '../http/rateLimits.ts'
import { isSameSecret } from '../mail/signedLinks.ts'
import { noteAct } from '../record/recordActs.ts'
import { Refusal } from '../http/problems.ts'
import { checkNewPassword, checkOwnPassword, storedHash } from './ownPassword.ts'
import { serve } from './route.ts'
import { secondFactorsOf } from './secondFactors.ts'

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

/** Asks for the code of a second factor, where there is one. */
function checkCode(application: Application, personId: string, code: string | undefined) {
  const factors = secondFactorsOf(application)
  if (!hasSecondFactor(factors, personId)) return
  const refuse = (detail: string) => {
    throw new Refusal('not signed in', detail, [{ path: 'code', detail }])
  }
  if (code === undefined || code === '') refuse('Type the code that your authenticator shows now.')
  else if (!application.store.transaction(() => secondFactorFits(factors, personId, code))) {
    refuse('This code does not fit. Type the one that is shown now; each is good once.')
  }
}

type Begin = (personId: string, request: Request, response: Response) => SessionView

/** A password chosen by a link. */
function wayInRoutes(router: Router, running: RunningApplication, begin: Begin) {
  const { application } = running
  const { statements } = application.store
  serve(router, statements, endpoints.lookAtWayIn, ({ body: { token } }) => {
    const { purpose, name, email } = readWayIn(statements, token)
    return { purpose, name, email, businessName: application.settings.required().business.name }
  })
  serve(router, statements, endpoints.takeWayIn, async ({ body: { token, password }, request, response }) => {
    const { name, email } = readWayIn(statements, token)
    await checkNewPassword(password, {
      name,
      email,
      businessName: application.settings.required().business.name,
    })
    const passwordHash = await hashPassword(password)
    const personId = application.store.transaction(() => {
      // Once more: another press may have been faster.
      const { personId: id } = readWayIn(statements, token)
      useUpWayIn(statements, token)
      statements.run('setPassword', { personId: id, passwordHash })
      statements.run('endSessionsOf', { personId: id })
      return id
    })
    noteAct(response, { personId, sentence: endpoints.takeWayIn.summary, path: request.path, things: [] })
    application.changes.publish(['sessions', 'settings'])
    return hasSecondFactor(secondFactorsOf(application), personId)
      ? viewOf(running, null)
      : begin(personId, request, response)
  })
}

/** Coming in by address and password. */
function signInRoutes(router: Router, { application }: RunningApplication, begin: Begin) {
  const { statements } = application.store
  serve(router, statements, endpoints.signIn, async ({ body, request, response }) => {
    const row = statements.one('passwordOf', { email: body.email.trim() })
    const fits = await passwordFits(body.password, storedHash(row))
    const personId = row ? String(row['id']) : null
    const note = (sentence: string) =>
      noteAct(response, { personId, sentence, path: request.path, things: [] })
    if (personId === null || !fits) {
      note(personId === null ? 'Signing in refused: no such address' : 'Signing in refused: wrong password')
      throw new Refusal('not signed in', 'This address and password do not fit together.')
    }
    checkCode(application, personId, body.code)
    note(endpoints.signIn.summary)
    return begin(personId, request, response)
  })
}

/** Coming in and going out. */
export function sessionRoutes(router: Router, running: RunningApplication) {
  const { application, isDemo } = running
  const { statements } = application.store
  const begin: Begin = (personId, request, response) => {
    const cookie = openSession(statements, {
      personId,
      agent: request.get('user-agent') ?? '',
      isSecure: isSecure(request, running.publicUrl),
    })
    response.append('Set-Cookie', cookie)
    return viewOf(running, tokenIn(cookie))
  }

  router.post(
    ['/api/session', '/api/session/demo', '/api/first-run', '/api/session/password', '/api/way-in'],
    limitPerAddress(),
  )
  router.post('/api/session', limitPerAccount())

  wayInRoutes(router, running, begin)
  signInRoutes(router, running, begin)
  serve(router, statements, endpoints.session, ({ request }) =>
    viewOf(running, tokenIn(request.headers.cookie)),
  )
  serve(router, statements, endpoints.signInToDemo, ({ body, request, response }) => {
    const person = readPeople(statements).find((one) => one.id === body.personId && one.isActive)
    if (!isDemo || !person) throw new Refusal('forbidden', 'Only the demo lets its people in at one press.')
    const { summary: sentence } = endpoints.signInToDemo
    noteAct(response, { personId: person.id, sentence, path: request.path, things: [] })
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
    await checkNewPassword(input.password, {
      name: input.personName,
      email: input.personEmail,
      businessName: input.businessName,
    })
    const person = await setUp(application, input)
    return begin(person.id, request, response)
  })
}

/** What a person sees to about their own way in. */
export function ownSessionRoutes(router: Router, { application }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.changePassword, async ({ body, session }) => {
    const { id, personId } = await checkOwnPassword(statements, session, body.present)
    const { name = '', email = '' } = readPeople(statements).find((one) => one.id === personId) ?? {}
    await checkNewPassword(body.password, {
      name,
      email,
      businessName: application.settings.required().business.name,
    })
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
