const key = 'vorfreude decisions'
const mostKept = 40
/** Somebody who was away for longer than this was not deciding. */
const longestMs = 3 * 60_000

function read(): readonly number[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key) ?? '[]')
    return Array.isArray(kept) ? kept.filter((one): one is number => typeof one === 'number') : []
  } catch {
    return []
  }
}

/** Remembers how long one decision took, in milliseconds. */
export function rememberDecision(ms: number) {
  if (ms > 0 && ms < longestMs) localStorage.setItem(key, JSON.stringify([...read(), ms].slice(-mostKept)))
}

/** About how many minutes so many decisions take, by what they took so far; null: nothing has been measured. */
export function minutesFor(count: number, measured: readonly number[] = read()): number | null {
  if (measured.length === 0) return null
  const middle = measured.toSorted((one, other) => one - other)[Math.floor(measured.length / 2)] ?? 0
  return Math.max(1, Math.round((count * middle) / 60_000))
}
