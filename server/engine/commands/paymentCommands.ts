import {
  addInvoice,
  notePayment,
  receivePayment,
  voidInvoice,
  type InvoiceInput,
} from '#core/engine/commands/paymentCommands.ts'
import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import type { Payment } from '#core/model/dealings.ts'
import type { Result } from '#core/model/problem.ts'
import type { Slice } from '#core/planning/slice.ts'
import { readBooking, readInvoice } from '../../db/clientStore.ts'
import { focusOn } from '../../db/livingStore.ts'
import type { Application, CommandCall } from '../application.ts'
import { onClient } from './onClient.ts'

/** What is done about invoices, by the team and by the page for paying. */
export function createPaymentCommands(application: Application) {
  const { statements } = application.store
  const onInvoice = (
    call: CommandCall,
    id: string,
    decide: (slice: Slice, context: EngineContext) => Result<readonly Effect[]>,
  ): Result<{ id: string }> =>
    application.command(call, (context) => {
      const invoice = readInvoice(statements, id)
      const subjects = [id, ...(invoice?.bookingId == null ? [] : [invoice.bookingId])]
      return onClient(
        application,
        invoice?.clientId,
        focusOn(...subjects),
        'There is no such invoice.',
        (slice) => decide(slice, context),
        () => ({ id }),
      )
    })
  return {
    notePayment: (call: CommandCall, id: string, cents: number) =>
      onInvoice(call, id, (slice, context) => notePayment(slice, id, cents, context)),
    receivePayment: (call: CommandCall, id: string, told: Pick<Payment, 'reference' | 'cents'>) =>
      onInvoice(call, id, (slice, context) => receivePayment(slice, id, told, context)),
    voidInvoice: (call: CommandCall, id: string) =>
      onInvoice(call, id, (slice, context) => voidInvoice(slice, id, context)),
    addInvoice: (call: CommandCall, bookingId: string, input: InvoiceInput): Result<{ id: string }> =>
      application.command(call, (context) =>
        onClient(
          application,
          readBooking(statements, bookingId)?.clientId,
          focusOn(bookingId),
          'There is no such booking.',
          (slice) => addInvoice(slice, bookingId, input, context),
          (effects) => ({
            id: effects.flatMap((one) => (one.kind === 'put invoice' ? [one.invoice.id] : []))[0] ?? '',
          }),
        ),
      ),
  }
}
