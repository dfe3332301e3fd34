import { createHash } from 'node:crypto'
import express, { type ErrorRequestHandler, type Request, type Response, type Router } from 'express'
import { z } from 'zod'
import { readForm } from '#core/forms/readForm.ts'
import type { Form } from '#core/model/form.ts'
import { emailAddress, oneLine, requiredLine } from '#core/model/values.ts'
import { businessDate } from '#core/planning/slice.ts'
import { askBody, nothingTypedIn, thanksBody, type TypedIn } from '../clientPages/askForm.ts'
import { askWords } from '../clientPages/askWords.ts'
import { formStamp, paceOf } from '../clientPages/clientForms.ts'
import { sendClientPage } from '../clientPages/page.ts'
import { turnedAway } from '../clientPages/turnedAway.ts'
import { readerLanguage } from '../clientPages/visit.ts'
import { pageWords } from '../clientPages/words.ts'
import { readFormVersion } from '../db/formStore.ts'
import { callOf } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { limitBookingsByAccount, limitBookingsByNetwork } from '../http/rateLimits.ts'

/** A form takes so much text as a whole. */
const mostText = '512kb'

const list = z.union([z.string(), z.array(z.string())]).transform((given) => [given].flat())

/** What browsers send of a form: texts by name. Line ends are what a text area makes of them. */
const givenBody = z
  .record(z.string(), list)
  .catch({})
  .transform((given) =>
    Object.fromEntries(
      Object.entries(given).map(([name, values]) => [
        name,
        values.map((value) => value.replaceAll('\r\n', '\n').trim()),
      ]),
    ),
  )

const who = z.object({
  firstName: requiredLine(80, ''),
  lastName: requiredLine(80, ''),
  email: emailAddress,
  phone: oneLine(60),
})

function page(running: RunningApplication, response: Response, status: number, form: Form, body: string) {
  sendClientPage(response, {
    status,
    language: form.language,
    title: form.title,
    heading: running.application.settings.required().business.name,
    body,
    isEmbeddable: true,
  })
}

function closed(running: RunningApplication, request: Request, response: Response) {
  const language = readerLanguage(request)
  sendClientPage(response, {
    status: 404,
    language,
    title: 'Vorfreude',
    heading: running.application.settings.required().business.name,
    body: `<p>${askWords[language].closed}</p>`,
  })
}

const openForm = ({ application }: RunningApplication, request: Request): Form | undefined =>
  application.settings.required().forms.find(({ id, isActive }) => id === request.params['id'] && isActive)

interface Answer {
  readonly status: number
  readonly typed: TypedIn
  readonly alert: string | null
}

function shown(
  running: RunningApplication,
  response: Response,
  form: Form,
  { status, typed, alert }: Answer,
) {
  const stamp = formStamp(running.application.store.keys)
  const { id, revision: version } = form
  page(running, response, status, form, askBody({ form, typed, alert, action: `/ask/${id}`, stamp, version }))
}

/** The same form sent twice is one enquiry; with something else in it, it is another. */
function callOfForm(formId: string, values: TypedIn['values']) {
  const said = Object.entries(values).filter(([name]) => name !== 'stamp')
  const hash = createHash('sha256')
    .update(JSON.stringify([formId, said.sort()]))
    .digest('hex')
  return callOf('receiveForm', `form-${hash.slice(0, 48)}`)
}

/** Who filled it in, or what is wrong with that. */
function fillerIn({ language, asksPhone }: Form, firsts: Readonly<Record<string, string>>) {
  const words = pageWords[language]
  const said = {
    firstName: words.needName,
    lastName: words.needName,
    email: words.needEmail,
    phone: words.needPhone,
  }
  const parsed = who.safeParse({ phone: '', ...firsts })
  const faults = Object.fromEntries(
    (parsed.error?.issues ?? []).map(({ path }) => {
      const name = path.join('.') as keyof typeof said
      return [name, said[name]]
    }),
  )
  if (asksPhone === 'yes' && (firsts['phone'] ?? '') === '') faults['phone'] = askWords[language].needPhone
  return { filler: parsed.data ?? null, faults }
}

/** What was sent, as it came; null: it goes on from there by itself. */
function receive(
  running: RunningApplication,
  form: Form,
  response: Response,
  request: Request,
): Answer | null {
  const { application, commands } = running
  const { language } = form
  const words = pageWords[language]
  const values = givenBody.parse(request.body)
  const firsts = Object.fromEntries(Object.entries(values).map(([name, [value = '']]) => [name, value]))
  const typed = { values, faults: {} }
  if (request.is('multipart/form-data')) {
    return { status: 415, typed, alert: askWords[language].noFiles }
  }
  const said = { ...words, tooOften: askWords[language].tooOften }
  const away = turnedAway(firsts, response, said, paceOf(firsts['stamp'] ?? '', application.store.keys))
  if (away) return { ...away, typed }
  const today = businessDate(application.settings.required(), application.clock.now())
  const read = readForm(form, values, today)
  const { filler, faults } = fillerIn(form, firsts)
  const all = { ...(read.ok ? {} : read.faults), ...faults }
  if (!read.ok || !filler || Object.keys(all).length > 0) {
    return { status: 422, typed: { values, faults: all }, alert: words.faults }
  }
  const result = commands.receiveForm(callOfForm(form.id, values), form, filler, read.filled)
  if (result.ok) return null
  // An address that cannot be real.
  const isAddress = result.problem.field?.endsWith('email') === true
  return isAddress
    ? { status: 422, typed: { values, faults: { email: words.needEmail } }, alert: words.faults }
    : { status: 422, typed, alert: askWords[language].notNow }
}

/** Forms as people fill them in who ask for something. No sign-in. */
export function askRoutes(router: Router, running: RunningApplication) {
  const { statements } = running.application.store
  router.get('/ask/:id', (request, response) => {
    const form = openForm(running, request)
    if (form) shown(running, response, form, { status: 200, typed: nothingTypedIn, alert: null })
    else closed(running, request, response)
  })
  router.get('/ask/:id/thanks', (request, response) => {
    const form = openForm(running, request)
    if (form) page(running, response, 200, form, thanksBody(form))
    else closed(running, request, response)
  })
  router.post(
    '/ask/:id',
    express.urlencoded({ extended: false, limit: mostText }),
    limitBookingsByNetwork(),
    limitBookingsByAccount(),
    (request, response) => {
      const open = openForm(running, request)
      if (!open) {
        closed(running, request, response)
        return
      }
      // What somebody began to fill in counts as it was then.
      const version = Number((request.body as { version?: unknown } | undefined)?.version)
      const form = Number.isInteger(version) ? (readFormVersion(statements, open.id, version) ?? open) : open
      const again = receive(running, form, response, request)
      if (again) shown(running, response, form, again)
      else response.redirect(303, `/ask/${form.id}/thanks`)
    },
  )
  const tooLarge: ErrorRequestHandler = (fault: unknown, request, response, next) => {
    const form =
      (fault as { type?: unknown }).type === 'entity.too.large' ? openForm(running, request) : undefined
    if (!form) next(fault)
    else {
      const alert = askWords[form.language].tooLarge
      shown(running, response, form, { status: 413, typed: nothingTypedIn, alert })
    }
  }
  router.use('/ask/:id', tooLarge)
}
