/** Conversions between columns and values: SQLite has no booleans and no objects. */

export const flag = (value: boolean): number => (value ? 1 : 0)
export const isSet = (value: unknown): boolean => value === 1

export const asJson = (value: unknown): string => JSON.stringify(value)
/** A JSON column's value; null stays null. The reader's schema says what it is. */
export const fromJson = (column: unknown): unknown => (typeof column === 'string' ? JSON.parse(column) : null)
