import { randomUUID } from 'node:crypto'
import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { wayInMail } from '#core/insight/waysIn.ts'
import type { Person } from '#core/model/business.ts'
import type { WayInPurpose } from '#core/model/wayIn.ts'
import { readPeople } from '../db/settingsStore.ts'
import { tellPerson } from '../engine/tellPerson.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { limitForgotten } from '../http/rateLimits.ts'
import { endSecondFactor } from '../session/secondFactor.ts'
import { goodFor, makeWayIn } from '../session/waysIn.ts'
import { isSet } from '../db/columns.ts'
import { serve } from './route.ts'
import { secondFactorsOf } from './secondFactors.ts'

const activePerson = ({ application }: RunningApplication, is: (person: Person) => boolean) =>
  readPeople(application.store.statements).find((one) => one.isActive && is(one))

const noRealMail = 'No mail account is set up yet, so it lies in the mailboxes that came with Vorfreude.'

/** Makes a link and sends it; why it was not sent, or null. */
async function giveWayIn(
  running: RunningApplication,
  person: Person,
  { purpose, by }: { readonly purpose: WayInPurpose; readonly by: string },
) {
  const { application, accounts, publicUrl, ways } = running
  const { business } = application.settings.required()
  const { token, until } = application.store.transaction(() =>
    makeWayIn(application.store.statements, { personId: person.id, email: person.email, purpose }),
  )
  // Behind the sign of a fragment: it is in no log on the way.
  const url = `${publicUrl()}/come-in#${token}`
  const { obstacle, isReal } = ways()
  if (obstacle !== null) return { url, until, notSent: obstacle }
  const facts = {
    purpose,
    name: person.name,
    businessName: business.name,
    by,
    url,
    goodFor: goodFor(purpose),
  }
  const outcome = await tellPerson(application, accounts.main, person, wayInMail(facts), randomUUID())
  application.changes.publish(['mail', 'settings'])
  if (outcome.kind !== 'accepted') return { url, until, notSent: outcome.answer }
  return { url, until, notSent: isReal || running.isDemo ? null : noRealMail }
}

/** Who gets in, and how. */
export function teamRoutes(router: Router, running: RunningApplication) {
  const { application } = running
  const { statements } = application.store
  router.post('/api/way-in/forgotten', limitForgotten())
  serve(router, statements, endpoints.waysIn, () => ({
    people: statements.all('waysIn', { now: Date.now() }).map((row) => ({
      personId: String(row['personId']),
      hasPassword: isSet(row['hasPassword']),
      hasSecondFactor: isSet(row['hasSecondFactor']),
      invitedUntil: row['invitedUntil'] === null ? null : Number(row['invitedUntil']),
    })),
  }))
  serve(router, statements, endpoints.invite, async ({ parameters, personId }) => {
    const person = activePerson(running, ({ id }) => id === parameters.id)
    if (!person) throw new Refusal('not found', 'There is no such person in the team.')
    const by = activePerson(running, ({ id }) => id === personId)?.name ?? ''
    return await giveWayIn(running, person, { purpose: 'invitation', by })
  })
  serve(router, statements, endpoints.endSecondFactorOf, ({ parameters }) => {
    application.store.transaction(() => endSecondFactor(secondFactorsOf(application), parameters.id))
    application.changes.publish(['settings', 'sessions'])
    return {}
  })
  serve(router, statements, endpoints.forgotten, ({ body: { email } }) => {
    const asked = email.trim().toLowerCase()
    const person = activePerson(running, (one) => one.email.toLowerCase() === asked)
    // Not waited for: how long an answer takes would tell whether the address is known.
    if (person) {
      giveWayIn(running, person, { purpose: 'new password', by: '' }).catch(running.onFault)
    }
    return {}
  })
}
