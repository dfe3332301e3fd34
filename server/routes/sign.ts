import express, { type Request, type Response, type Router } from 'express'
import { z } from 'zod'
import type { Signing } from '#core/model/document.ts'
import { requiredLine } from '#core/model/values.ts'
import { formBody, formStamp, paceOf } from '../clientPages/clientForms.ts'
import { sendClientPage } from '../clientPages/page.ts'
import { nothingSigned, signBody, signWords, type TypedSignature } from '../clientPages/signPage.ts'
import { signedPdf } from '../clientPages/signedPdf.ts'
import { turnedAway } from '../clientPages/turnedAway.ts'
import { readerLanguage } from '../clientPages/visit.ts'
import { pageWords } from '../clientPages/words.ts'
import { lastSigning, signedCopy } from '../db/documentStore.ts'
import { callOf } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { limitBookingsByNetwork } from '../http/rateLimits.ts'
import { idOfToken, keyOfSigning } from '../mail/signedLinks.ts'

/** What a link leads to; null: nothing was sent under it. */
function foundBy({ application }: RunningApplication, token: string): Signing | null {
  const { statements, keys } = application.store
  const id = idOfToken('sign', token, keys)
  const key = id === null ? null : keyOfSigning(id)
  return key && lastSigning(statements, key.subjectId, key.documentId)
}

function unknown(running: RunningApplication, request: Request, response: Response) {
  const language = readerLanguage(request)
  sendClientPage(response, {
    status: 404,
    language,
    title: signWords[language].title,
    heading: running.application.settings.required().business.name,
    body: `<p>${signWords[language].unknown}</p>`,
  })
}

interface Answer {
  readonly status: number
  readonly typed: TypedSignature
  readonly alert: string | null
}

function shown(
  { application }: RunningApplication,
  response: Response,
  signing: Signing,
  path: string,
  { status, typed, alert }: Answer,
) {
  const { business, zones } = application.settings.required()
  const stamp = formStamp(application.store.keys)
  const zone = zones.zone(business.zone)
  sendClientPage(response, {
    status,
    language: signing.document.language,
    title: signing.document.name,
    heading: business.name,
    body: signBody({ signing, typed, alert, path, stamp, zone }),
  })
}

const given = z.object({ name: requiredLine(120, ''), consent: z.literal('yes') })

type Values = Readonly<Record<string, string>>

/** What was typed, with what is wrong with it. */
function typedIn(values: Values, { document: { language } }: Signing): TypedSignature {
  const issues = given.safeParse(values).error?.issues ?? []
  const isAtFault = (name: string) => issues.some(({ path }) => path[0] === name)
  const words = signWords[language]
  return {
    name: values['name'] ?? '',
    isTicked: values['consent'] === 'yes',
    faults: {
      ...(isAtFault('name') ? { name: words.needName } : {}),
      ...(isAtFault('consent') ? { consent: words.needConsent } : {}),
    },
  }
}

/** Signs what was read; null: it is signed now, or was already. */
async function sign(
  { application, commands }: RunningApplication,
  signing: Signing,
  values: Values,
  response: Response,
  address: string,
): Promise<Answer | null> {
  if (signing.signed) return null
  const { document, hash } = signing
  const words = { ...pageWords[document.language], tooOften: signWords[document.language].tooOften }
  const typed = typedIn(values, signing)
  const pace = paceOf(values['stamp'] ?? '', application.store.keys)
  const away = turnedAway(values, response, words, pace)
  if (away) return { ...away, typed }
  const changed = {
    status: 409,
    typed: { ...typed, isTicked: false },
    alert: signWords[document.language].changed,
  }
  if (values['hash'] !== hash) return changed
  if (Object.keys(typed.faults).length > 0) return { status: 422, typed, alert: words.faults }
  const { business, zones } = application.settings.required()
  const signed = { at: application.clock.now(), typedName: typed.name, address }
  const zone = zones.zone(business.zone)
  const pdf = await signedPdf({ document, signed, hash, businessName: business.name, zone })
  const call = callOf('signDocument', `sign-${signing.id.slice(3)}`)
  const result = commands.signDocument(call, signing, { ...signed, hash }, pdf)
  return result.ok || result.problem.code === 'not allowed now' ? null : changed
}

/** Where clients read and sign documents, and get their copy. No sign-in: a signed link. */
export function signRoutes(router: Router, running: RunningApplication) {
  const { statements } = running.application.store
  router.get('/sign/:token', (request: Request<{ token: string }>, response) => {
    const { token } = request.params
    const signing = foundBy(running, token)
    const fresh: Answer = { status: 200, typed: nothingSigned, alert: null }
    if (signing) shown(running, response, signing, `/sign/${token}`, fresh)
    else unknown(running, request, response)
  })
  router.get('/sign/:token/document.pdf', (request: Request<{ token: string }>, response) => {
    const signing = foundBy(running, request.params.token)
    const pdf = signing && signedCopy(statements, signing.id)
    if (!pdf) {
      unknown(running, request, response)
      return
    }
    response.type('application/pdf').set('Cache-Control', 'no-store').send(pdf)
  })
  router.post(
    '/sign/:token',
    express.urlencoded({ extended: false, limit: '64kb' }),
    limitBookingsByNetwork(),
    (request: Request<{ token: string }>, response, next) => {
      const { token } = request.params
      const signing = foundBy(running, token)
      if (!signing) {
        unknown(running, request, response)
        return
      }
      sign(running, signing, formBody.parse(request.body), response, request.ip ?? '')
        .then((again) => {
          if (again) shown(running, response, foundBy(running, token) ?? signing, `/sign/${token}`, again)
          else response.redirect(303, `/sign/${token}`)
        })
        .catch(next)
    },
  )
}
