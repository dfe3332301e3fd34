/** Something a person can put right: a code for programs, a sentence for people, and the field it belongs to. */
export interface Problem {
  readonly code: ProblemCode
  readonly sentence: string
  /** Path of the field, such as `contacts.0.email`; null where no single field is at fault. */
  readonly field: string | null
}

export type ProblemCode =
  | 'invalid'
  | 'malformed'
  | 'not found'
  | 'not allowed now'
  | 'changed meanwhile'
  | 'no seats left'
  | 'not signed in'
  | 'forbidden'
  | 'too large'
  | 'too often'
  | 'refused'
  | 'busy'

export type Result<Value> =
  { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly problem: Problem }

export const done = <Value>(value: Value): Result<Value> => ({ ok: true, value })

export function refused<Value>(
  code: ProblemCode,
  sentence: string,
  field: string | null = null,
): Result<Value> {
  return { ok: false, problem: { code, sentence, field } }
}
