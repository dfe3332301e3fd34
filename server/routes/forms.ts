import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import type { FormView } from '#core/api/formEndpoints.ts'
import { askBody, nothingTypedIn } from '../clientPages/askForm.ts'
import { clientPageHtml } from '../clientPages/page.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { usesOfForm } from '../engine/uses.ts'
import { Refusal } from '../http/problems.ts'
import { serve, valueOf } from './route.ts'

function formView({ application, publicUrl }: RunningApplication, id: string): FormView {
  const form = application.settings.required().forms.find((one) => one.id === id)
  if (!form) throw new Refusal('not found', 'There is no such form any more.')
  const row = application.store.statements.one('receiptsOfForm', { formId: id })
  const lastAt = row?.['lastAt']
  return {
    form,
    url: `${publicUrl()}/ask/${id}`,
    receipts: Number(row?.['count'] ?? 0),
    lastAt: typeof lastAt === 'number' ? lastAt : null,
    namedBy: [...usesOfForm(application, id).namedBy],
  }
}

/** Forms: put together, looked at, and what they say otherwise than is known. */
export function formRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  serve(router, statements, endpoints.form, ({ parameters }) => formView(running, parameters.id))
  serve(router, statements, endpoints.addForm, ({ body, called }) =>
    valueOf(commands.putForm(called('addForm'), { id: null, revision: 0, form: body.form })),
  )
  serve(router, statements, endpoints.changeForm, ({ parameters: { id }, body, called }) =>
    valueOf(commands.putForm(called('changeForm'), { id, revision: body.revision, form: body.form })),
  )
  serve(router, statements, endpoints.removeForm, ({ parameters: { id }, called }) =>
    valueOf(commands.removeForm(called('removeForm'), id)),
  )
  serve(router, statements, endpoints.previewForm, ({ body: { form } }) => {
    const typed = nothingTypedIn
    return {
      html: clientPageHtml({
        language: form.language,
        title: form.title,
        heading: application.settings.required().business.name,
        body: askBody({ form, typed, alert: null, action: '', stamp: '', version: 0 }),
      }),
    }
  })
  serve(router, statements, endpoints.decideDifferences, ({ parameters: { id }, body, called }) =>
    valueOf(commands.decideDifferences(called('decideDifferences'), id, body.taken)),
  )
}
