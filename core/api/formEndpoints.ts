import { z } from 'zod'
import { differingFact, form, formInput } from '../model/form.ts'
import { instant } from '../model/values.ts'
import { ask, change, changed, command, commandOn, end, made, tell } from './described.ts'

const formView = z.object({
  form,
  /** Where it is filled in. */
  url: z.string(),
  /** How many people have filled it in, and when the last one did; null: nobody. */
  receipts: z.number().int(),
  lastAt: instant.nullable(),
  /** What goes by its name, such as sequences. */
  namedBy: z.array(z.string()),
})
export type FormView = z.infer<typeof formView>

/** Forms that ask for something. */
export const formEndpoints = {
  form: ask({ path: '/api/forms/:id', summary: 'A form, with who has filled it in', answer: formView }),
  addForm: tell({
    path: '/api/forms',
    summary: 'New form',
    body: z.object({ ...command, form: formInput }).strict(),
    answer: changed,
    access: 'owner',
  }),
  changeForm: change({
    path: '/api/forms/:id',
    summary: 'Change a form; what was given to it before keeps the words of its version',
    body: z.object({ ...commandOn, form: formInput }).strict(),
    answer: changed,
    access: 'owner',
  }),
  removeForm: end({
    path: '/api/forms/:id',
    summary: 'Delete a form that nobody has filled in',
    body: z.object(command).strict(),
    answer: made,
    access: 'owner',
  }),
  previewForm: tell({
    path: '/api/form-previews',
    summary: 'A form as its page would show it, for a sandboxed frame',
    body: z.object({ form: formInput }).strict(),
    answer: z.object({ html: z.string() }),
    isRecorded: false,
  }),
  decideDifferences: tell({
    path: '/api/receipts/:id/decide',
    summary: 'Take over what a form says otherwise than is known of the client, or leave it',
    body: z.object({ ...command, taken: z.array(differingFact).max(10) }).strict(),
    answer: made,
  }),
} as const
