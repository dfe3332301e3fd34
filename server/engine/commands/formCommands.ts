import {
  decideDifferences,
  putForm,
  receiveForm,
  removeForm,
  type FormChange,
  type FormFiller,
} from '#core/engine/commands/formCommands.ts'
import type { FilledForm } from '#core/forms/readForm.ts'
import type { DifferingFact, Form } from '#core/model/form.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import { readEnquiry } from '../../db/clientStore.ts'
import { readFormReceipt } from '../../db/formStore.ts'
import { focusOn } from '../../db/livingStore.ts'
import type { Application, CommandCall } from '../application.ts'
import { usesOfForm } from '../uses.ts'
import { known } from './knownClients.ts'
import { onClient, type Changed } from './onClient.ts'

/** Forms put together, filled in, and looked at where they say otherwise than is known. */
export function createFormCommands(application: Application) {
  const { statements } = application.store
  return {
    putForm: (call: CommandCall, change: FormChange): Result<Changed> =>
      application.command(call, (context, settings) => {
        const put = putForm(settings, change, usesOfForm(application, change.id), context)
        if (!put.ok) return put
        const [first] = put.value
        const { id = '', revision = 0 } = first?.kind === 'put form' ? first.form : {}
        return done({ effects: put.value, answer: { id, revision } })
      }),
    removeForm: (call: CommandCall, id: string) =>
      application.command(call, (context, settings) => {
        const receipts = Number(statements.one('receiptsOfForm', { formId: id })?.['count'] ?? 0)
        const decided = removeForm(settings, id, usesOfForm(application, id), receipts, context)
        return decided.ok ? done({ effects: decided.value, answer: { id } }) : decided
      }),
    /** By somebody who is known, whose facts are left as they are, or a new client. */
    receiveForm: (
      call: CommandCall,
      form: Form,
      filler: FormFiller,
      filled: FilledForm,
    ): Result<{ id: string }> =>
      application.command(call, (context, settings) => {
        const takesPromotional = filled.takesPromotional === true
        const booker = { ...filler, language: form.language, zone: null, takesPromotional }
        const who = known(application, booker, settings, context)
        if (!who.ok) return who
        const { slice, effects } = who.value
        const received = receiveForm(slice, form, filler, filled, context)
        if (!received.ok) return received
        const id = received.value.flatMap((one) => (one.kind === 'put enquiry' ? [one.enquiry.id] : []))[0]
        return done({ effects: [...effects, ...received.value], answer: { id: id ?? '' } })
      }),
    decideDifferences: (
      call: CommandCall,
      id: string,
      taken: readonly DifferingFact[],
    ): Result<{ id: string }> =>
      application.command(call, (context) => {
        const receipt = readFormReceipt(statements, id)
        if (!receipt) return refused('not found', 'There is no such form.')
        return onClient(
          application,
          readEnquiry(statements, receipt.enquiryId)?.clientId,
          focusOn(receipt.enquiryId),
          'There is no such enquiry.',
          (slice) => decideDifferences(slice, receipt, taken, context),
          () => ({ id }),
        )
      }),
  }
}
