import { v7 } from 'uuid'

/** An id that sorts by the time it was made, also while the clock steps back (UUIDv7, RFC 9562 5.7 and 6.2). */
export const newId = (prefix: string): string => `${prefix}_${v7()}`
