import type { Client, Contact } from '../../model/client.ts'
import { newEnquiry, type Enquiry } from '../../model/enquiry.ts'
import {
  formId,
  formInput,
  type DifferingFact,
  type Form,
  type FormDifference,
  type FormReceipt,
} from '../../model/form.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { isSameAddress } from '../../model/values.ts'
import { businessDate, type Settings, type Slice } from '../../planning/slice.ts'
import type { FilledForm } from '../../forms/readForm.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { takenOver } from '../following/enquiryStage.ts'
import { conclude } from '../following/react.ts'
import { taskSet } from '../following/taskSet.ts'
import { happened } from './dealingCommands.ts'
import { receiveEnquiry } from './enquiryCommands.ts'
import { elsewhere } from './settingsFault.ts'
import { z } from 'zod'

/* Forms that ask for something: as they are put together, and as they come in. */

/** A form is added or changed, on the revision that was decided on. */
export const formChange = z
  .object({
    /** Null: a new one. */
    id: formId.nullable(),
    revision: z.number().int(),
    form: formInput,
  })
  .strict()
export type FormChange = z.infer<typeof formChange>

/** What hangs on a form. */
export interface FormUses {
  /** What goes by its name, such as sequences. */
  readonly namedBy: readonly string[]
  /** The letters that say what was answered to a field, by its words. */
  readonly lettersSaying: (label: string) => readonly string[]
}

type Decided = Result<readonly Effect[]>

function removedFault(
  present: Form | undefined,
  { form: { fields } }: FormChange,
  { lettersSaying }: FormUses,
): Result<never> | null {
  for (const { label } of present?.fields ?? []) {
    if (fields.some((one) => one.label === label)) continue
    const letters = lettersSaying(label)
    if (letters.length > 0) {
      return refused(
        'not allowed now',
        `“${label}” is said in ${letters.join(', ')}. Take it out there first; then it can go, or be called something else.`,
        'fields',
      )
    }
  }
  return null
}

function placeFault({ pipelines, services }: Settings, { form: input }: FormChange): Result<never> | null {
  if (!pipelines.some(({ id, isActive }) => id === input.pipelineId && isActive)) {
    return refused('not found', 'There is no such pipeline.', 'pipelineId')
  }
  const isService = (wanted: string | null) => wanted === null || services.some(({ id }) => id === wanted)
  if (!isService(input.serviceId)) return refused('not found', 'There is no such service.', 'serviceId')
  const at = input.fields.findIndex(({ options }) => options.some((one) => !isService(one.serviceId)))
  return at < 0 ? null : refused('not found', 'There is no such service.', `fields.${at}.options`)
}

/** A form as it is put: what was given to an earlier version keeps the words of that. */
export function putForm(
  settings: Settings,
  change: FormChange,
  uses: FormUses,
  context: EngineContext,
): Decided {
  const { id, revision, form: input } = change
  const present = settings.forms.find((one) => one.id === id)
  if (id !== null && !present) return refused('not found', 'There is no such form any more.')
  if (present && present.revision !== revision) return elsewhere()
  const isTaken = settings.forms.some(
    (one) => one.id !== id && one.name.toLowerCase() === input.name.toLowerCase(),
  )
  if (isTaken) return refused('invalid', `There is a form “${input.name}” already.`, 'name')
  if (present && present.name !== input.name && uses.namedBy.length > 0) {
    const names = uses.namedBy.join(', ')
    return refused('not allowed now', `“${present.name}” is named by ${names}. Change that first.`, 'name')
  }
  const fault = placeFault(settings, change) ?? removedFault(present, change, uses)
  if (fault) return fault
  const put: Form = { ...input, id: id ?? context.newId('fm'), revision: (present?.revision ?? 0) + 1 }
  const deed = present ? 'changed' : 'added'
  return done([
    { kind: 'put form', form: put },
    appendEvent(context, 'settings changed', { name: put.name }, `Form ${deed}: ${put.name}.`),
  ])
}

/** A form that nobody has filled in is deleted. */
export function removeForm(
  settings: Settings,
  id: string,
  { namedBy }: Pick<FormUses, 'namedBy'>,
  receipts: number,
  context: EngineContext,
): Decided {
  const present = settings.forms.find((one) => one.id === id)
  if (!present) return refused('not found', 'There is no such form any more.')
  if (namedBy.length > 0) {
    return refused('not allowed now', `It is named by ${namedBy.join(', ')}. Close it instead.`)
  }
  if (receipts > 0) {
    const counted = receipts === 1 ? '1 person has' : `${receipts} people have`
    return refused('not allowed now', `${counted} filled it in. Close it instead.`)
  }
  return done([
    { kind: 'remove form', id },
    appendEvent(context, 'settings changed', { name: present.name }, `Form deleted: ${present.name}.`),
  ])
}

/** Who filled a form in, as they say. */
export interface FormFiller {
  readonly firstName: string
  readonly lastName: string
  readonly email: string
  readonly phone: string
}

/** The contact a form came from: by the address, else the primary one. */
function contactOf({ contacts }: Client, { email }: FormFiller): Contact | undefined {
  const own = contacts.filter((one) => one.email !== null && isSameAddress(one.email, email))
  return own.find(({ isPrimary }) => isPrimary) ?? own[0] ?? contacts.find(({ isPrimary }) => isPrimary)
}

/** What a form says of somebody known that is otherwise known; nothing is written over because of it. */
function differencesOf(
  client: Client,
  contact: Contact,
  filler: FormFiller,
  takesPromotional: boolean | null,
): FormDifference[] {
  const names = ['firstName', 'lastName', 'phone'] as const
  const said = names.flatMap((fact): FormDifference[] =>
    filler[fact] === '' || filler[fact] === contact[fact]
      ? []
      : [{ fact, known: contact[fact], given: filler[fact], decided: null }],
  )
  return takesPromotional === true && !client.takesPromotional
    ? [...said, { fact: 'promotional mail', known: 'no', given: 'yes', decided: null }]
    : said
}

const factWords: Readonly<Record<DifferingFact, string>> = {
  firstName: 'first name',
  lastName: 'last name',
  phone: 'telephone',
  'promotional mail': 'promotional mail',
}

/** What differs, in words. */
export const differenceWords = ({ fact, known, given }: FormDifference) =>
  `${factWords[fact]} ${given} (known: ${known === '' ? 'none' : known})`

function enquiryOf(
  form: Form,
  { answers, what, wishedOn, partySize, budgetCents, source, serviceId }: FilledForm,
  client: Client,
  contact: Contact,
  { settings }: Slice,
  context: EngineContext,
): Enquiry | null {
  const [stage] = settings.pipelines.find(({ id }) => id === form.pipelineId)?.stages ?? []
  if (!stage) return null
  const nobody = { personInChargeId: null, deadlineOn: null }
  const asked = {
    answers: [...answers],
    what,
    wishedOn,
    partySize,
    budgetCents,
    // One that is gone by now is not asked for any more.
    serviceId: settings.services.some(({ id }) => id === serviceId) ? serviceId : null,
    source: source || form.name,
    id: context.newId('en'),
    clientId: client.id,
    pipelineId: form.pipelineId,
    stage: stage.name,
    ...takenOver(stage, nobody, settings, context.now),
  }
  const made = newEnquiry(asked, context.now)
  return contact.isPrimary ? made : { ...made, contactIds: [contact.id] }
}

/** A form came in: an enquiry of who filled it in, and what differs from what is known of them, to be looked at. */
export function receiveForm(
  slice: Slice,
  form: Form,
  filler: FormFiller,
  filled: FilledForm,
  context: EngineContext,
): Decided {
  const { client } = slice.facts
  const contact = contactOf(client, filler)
  const enquiry = contact && enquiryOf(form, filled, client, contact, slice, context)
  if (!contact || !enquiry) return refused('not allowed now', 'This form leads nowhere at present.')
  const received = receiveEnquiry(slice, enquiry, context)
  if (!received.ok) return received
  const differs = differencesOf(client, contact, filler, filled.takesPromotional)
  const receipt: FormReceipt = {
    id: context.newId('fr'),
    formId: form.id,
    revision: form.revision,
    formName: form.name,
    at: context.now,
    enquiryId: enquiry.id,
    contactId: contact.id,
    answers: [...filled.answers],
    differs,
  }
  const present: Slice = { ...slice, facts: withEffects(slice.facts, received.value) }
  const happening = { kind: 'form received', name: form.name, at: context.now } as const
  const did = happened(client.id, happening, context, `Form received: ${form.name}.`)
  return done([
    ...received.value,
    { kind: 'put form receipt', receipt },
    ...toLookAt(receipt, enquiry, slice, context),
    ...conclude(present, did, context),
  ])
}

/** Somebody looks at what differs. */
function toLookAt(
  { differs, formName }: FormReceipt,
  { id, clientId, personInChargeId }: Enquiry,
  { settings }: Slice,
  context: EngineContext,
): readonly Effect[] {
  if (differs.length === 0) return []
  const asked = {
    clientId,
    subject: { kind: 'enquiry', id },
    title: `“${formName}” says otherwise than is known: look at it`,
    dueOn: businessDate(settings, context.now),
    personId: personInChargeId,
  } as const
  return taskSet(asked, `Said otherwise than known: ${differs.map(differenceWords).join(', ')}.`, context)
}

/** What differs is taken over or left, each fact once. */
export function decideDifferences(
  slice: Slice,
  receipt: FormReceipt,
  taken: readonly DifferingFact[],
  context: EngineContext,
): Decided {
  const open = receipt.differs.filter(({ decided }) => decided === null)
  if (open.length === 0) return refused('not allowed now', 'Somebody has looked at this already.')
  const { client } = slice.facts
  const over = open.filter(({ fact }) => taken.includes(fact))
  const facts = Object.fromEntries(over.map(({ fact, given }) => [fact, given]))
  const { 'promotional mail': consent, ...names } = facts
  const changed: Client = {
    ...client,
    takesPromotional: consent === 'yes' ? true : client.takesPromotional,
    contacts: client.contacts.map((one) => (one.id === receipt.contactId ? { ...one, ...names } : one)),
    revision: client.revision + 1,
  }
  const said = over.length === 0 ? 'nothing' : over.map(differenceWords).join(', ')
  const differs = receipt.differs.map((one) => ({
    ...one,
    decided: one.decided ?? (taken.includes(one.fact) ? ('taken over' as const) : ('left' as const)),
  }))
  const put: readonly Effect[] = [
    ...(over.length === 0 ? [] : [{ kind: 'put client', client: changed } as const]),
    { kind: 'put form receipt', receipt: { ...receipt, differs } },
    appendEvent(
      context,
      'client changed',
      { clientId: client.id, subject: { kind: 'enquiry', id: receipt.enquiryId } },
      `Taken over from the form “${receipt.formName}”: ${said}.`,
    ),
  ]
  return done(conclude(slice, put, context))
}
