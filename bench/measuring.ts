import { availableParallelism } from 'node:os'

const rounds = 5

export const median = (values: readonly number[]) =>
  values.toSorted((one, other) => one - other)[Math.floor(values.length / 2)] ?? 0

/** The milliseconds that two ways of doing the same took, round by round in turns, so that noise meets both. */
export async function sideBySide(
  measured: () => Promise<number> | number,
  baseline: () => Promise<number> | number,
): Promise<{ readonly measured: readonly number[]; readonly baseline: readonly number[] }> {
  const results = { measured: [] as number[], baseline: [] as number[] }
  for (let round = 0; round < rounds; round += 1) {
    results.measured.push(await measured())
    results.baseline.push(await baseline())
  }
  return results
}

export function timed(work: () => void): number {
  const from = performance.now()
  work()
  return performance.now() - from
}

export const spread = (values: readonly number[], digits = 0) =>
  `${Math.min(...values).toFixed(digits)}–${Math.max(...values).toFixed(digits)} ms`

export function say(...lines: readonly string[]) {
  process.stdout.write(`${lines.join('\n')}\n`)
}

export function sayMachine() {
  say(`${availableParallelism()} cores, Node ${process.version}, median of ${rounds} rounds`)
}
