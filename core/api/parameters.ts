import { z } from 'zod'
import { apiKeyId } from '../model/apiKey.ts'
import { bookingId } from '../model/booking.ts'
import { personId, serviceId } from '../model/business.ts'
import { clientId } from '../model/client.ts'
import { clientImportId } from '../model/clientImport.ts'
import { clientMergeId } from '../model/clientMerge.ts'
import { invoiceId } from '../model/dealings.ts'
import { enquiryId } from '../model/enquiry.ts'
import { incomingMailboxId } from '../model/incomingMailbox.ts'
import { incomingId, incomingPlace } from '../model/incoming.ts'
import { writtenAnswerId } from '../model/writtenAnswer.ts'
import { furtherAccountId } from '../model/furtherAccount.ts'
import { letterId, passageId } from '../model/letter.ts'
import { documentId, signingId } from '../model/document.ts'
import { formId, formReceiptId } from '../model/form.ts'
import { onePressMoveId, pressedMoveId } from '../model/onePressMove.ts'
import { ownStatusId } from '../model/ownStatus.ts'
import { pipelineId } from '../model/pipeline.ts'
import { sendId } from '../model/send.ts'
import { sequenceId } from '../model/step.ts'
import { taskId } from '../model/task.ts'
import { deskMessageGroups } from './deskGroups.ts'
import { variationId } from '../model/variation.ts'

/** What the parameter behind each part of a path has to be. */
const parameterBehind: Readonly<Record<string, z.ZodType<string, string>>> = {
  bookings: bookingId,
  clients: clientId,
  'client-imports': clientImportId,
  'client-merges': clientMergeId,
  enquiries: enquiryId,
  documents: documentId,
  signings: signingId,
  forms: formId,
  receipts: formReceiptId,
  feeds: z.literal('all').or(personId),
  answers: writtenAnswerId,
  'came-in': incomingPlace,
  incoming: incomingId,
  'incoming-mailboxes': incomingMailboxId,
  invoices: invoiceId,
  files: z.string().regex(/^((fl|pc)_[A-Za-z0-9-]{1,60}|\d{1,3})$/, 'This is no file.'),
  sessions: z.uuid('This is no session.'),
  differences: z.uuid('This is no difference.'),
  keys: apiKeyId,
  letters: letterId,
  mail: z.string().regex(/^[1-9]\d{0,14}$/, 'A message has a number.'),
  'mail-accounts': furtherAccountId,
  mailboxes: z.string().min(1).max(254, 'An address has at most 254 characters.'),
  messages: z.enum(deskMessageGroups),
  passages: passageId,
  moves: onePressMoveId,
  'pressed-moves': pressedMoveId,
  pipelines: pipelineId,
  sends: sendId,
  sequences: sequenceId,
  services: serviceId,
  statuses: ownStatusId,
  tables: z.uuid('This is no table.'),
  tasks: taskId,
  team: personId,
  // A new one gets its id from the server.
  variations: z.literal('new').or(variationId),
}

/** The schema of a path's parameters, written as `:name`. */
export function parametersOf(path: string): z.ZodObject {
  const shape = [...path.matchAll(/\/([\w-]+)\/:(\w+)/g)].map(([, behind = '', name = '']) => {
    const schema = parameterBehind[behind]
    if (!schema) throw new Error(`Nothing is known of the parameter behind ${behind} in ${path}`)
    return [name, schema] as const
  })
  return z.object(Object.fromEntries(shape)).strict()
}
