import { form, formReceipt, type Form, type FormReceipt } from '#core/model/form.ts'
import { asJson, fromJson, kept } from './columns.ts'
import type { Statements } from './statements.ts'
import { readRows } from './unreadable.ts'

export const readForms = (statements: Statements): Form[] =>
  readRows(statements, 'form', statements.all('allForms'), ({ formJson }) => form.parse(fromJson(formJson)))

/** A form in one of its versions; null: there is none, or it cannot be read. */
export function readFormVersion(statements: Statements, formId: string, revision: number): Form | null {
  const rows = statements.all('readFormVersion', { formId, revision })
  const [found] = readRows(statements, 'form', rows, ({ formJson }) => form.parse(fromJson(formJson)))
  return found ?? null
}

export function putForm(statements: Statements, put: Form) {
  const formJson = asJson(kept(form, put))
  statements.run('putForm', { id: put.id, formJson })
  statements.run('addFormVersion', { formId: put.id, revision: put.revision, formJson })
}

export function removeForm(statements: Statements, id: string) {
  statements.run('removeFormVersions', { id })
  statements.run('removeForm', { id })
}

const asReceipt = (row: Readonly<Record<string, unknown>>) => formReceipt.parse(fromJson(row['receiptJson']))

export function putFormReceipt(statements: Statements, put: FormReceipt) {
  const { id, formId, enquiryId, at } = put
  statements.run('putFormReceipt', { id, formId, enquiryId, at, receiptJson: asJson(kept(formReceipt, put)) })
}

/** The form an enquiry came by; null: none, or it cannot be read. */
export function receiptOfEnquiry(statements: Statements, enquiryId: string): FormReceipt | null {
  const rows = statements.all('receiptOfEnquiry', { enquiryId })
  return readRows(statements, 'form that came in', rows, asReceipt)[0] ?? null
}

export function readFormReceipt(statements: Statements, id: string): FormReceipt | null {
  const row = statements.one('readFormReceipt', { id })
  return row ? asReceipt(row) : null
}
