import type { z } from 'zod'

/** Conversions between columns and values: SQLite has no booleans and no objects. */

export const flag = (value: boolean): number => (value ? 1 : 0)
export const isSet = (value: unknown): boolean => value === 1

export const asJson = (value: unknown): string => JSON.stringify(value)
/** A JSON column's value; null stays null. The reader's schema says what it is. */
export const fromJson = (column: unknown): unknown => (typeof column === 'string' ? JSON.parse(column) : null)

/** Something that would be written could not be read back: nothing is written. Its first fault, with its path. */
export class NotKept extends Error {
  constructor(
    readonly path: string,
    readonly fault: string,
  ) {
    super(`${path}: ${fault}`)
  }
}

/** A value that is about to be written, checked by the schema by which it is read. Throws NotKept. */
export function kept<Schema extends z.ZodType>(schema: Schema, value: z.output<Schema>): z.output<Schema> {
  const parsed = schema.safeParse(value)
  if (parsed.success) return value
  const [issue] = parsed.error.issues
  throw new NotKept(issue?.path.join('.') ?? '', issue?.message ?? 'It does not fit.')
}
