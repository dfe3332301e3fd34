import type { ConsequenceOfClient } from '#core/api/announcements.ts'

/** What an act on some messages does to others. */
export function othersThan(
  sendIds: readonly string[],
  lines: readonly ConsequenceOfClient[],
): readonly ConsequenceOfClient[] {
  return lines.filter((line) => !line.sendIds.some((id) => sendIds.includes(id)))
}
