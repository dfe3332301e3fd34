import { randomInt } from 'node:crypto'

let lastMs = 0
let sequence = 0

/** A short id that sorts by the time it was made: a type prefix, the time, a counter and a little chance, in base 36. */
export function newId(prefix: string): string {
  const ms = Date.now()
  sequence = ms === lastMs ? sequence + 1 : 0
  lastMs = ms
  const counter = sequence.toString(36).padStart(3, '0')
  const chance = randomInt(36 ** 4)
    .toString(36)
    .padStart(4, '0')
  return `${prefix}_${ms.toString(36)}${counter}${chance}`
}
