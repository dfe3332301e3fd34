import type { Service } from '../model/business.ts'
import type { Form } from '../model/form.ts'
import type { OnePressMove } from '../model/onePressMove.ts'

interface Asking {
  readonly forms: readonly Pick<Form, 'fields'>[]
  readonly services: readonly { readonly offer: Pick<Service['offer'], 'questions'> }[]
  readonly onePressMoves: readonly Pick<OnePressMove, 'parts'>[]
}

/** The words by which something of the business's own can be known of a booking or an enquiry, each once, in order. */
export function ownFieldWords({ forms, services, onePressMoves }: Asking): readonly string[] {
  const words = [
    ...forms.flatMap(({ fields }) => fields.map(({ label }) => label)),
    ...services.flatMap(({ offer }) => offer.questions.map(({ label }) => label)),
    ...onePressMoves.flatMap(({ parts }) =>
      parts.flatMap((part) => (part.kind === 'field' ? [part.field] : [])),
    ),
  ]
  return [...new Set(words)].toSorted((one, other) => one.localeCompare(other))
}
