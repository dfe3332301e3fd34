import { addMonths, dayMs, type EpochDay } from '../time/calendar.ts'

/** How long backups are kept: the newest of each of the last days, weeks and months. Common practice, no source. */
export const keptDays = 7
export const keptWeeks = 4
export const keptMonths = 12

export interface DatedBackup {
  readonly name: string
  readonly at: number
}

const dayOf = (at: number): EpochDay => Math.floor(at / dayMs)
/** Weeks begin on Monday; 1 January 1970 was a Thursday. */
const weekOf = (day: EpochDay) => Math.floor((day + 3) / 7)
const monthOf = (day: EpochDay) => new Date(day * dayMs).toISOString().slice(0, 7)

/** The newest of each group, groups given by name. */
function newestOfEach(backups: readonly DatedBackup[], groupOf: (day: EpochDay) => string | number) {
  const newest = new Map<string | number, DatedBackup>()
  for (const one of backups) {
    const group = groupOf(dayOf(one.at))
    const known = newest.get(group)
    if (!known || known.at <= one.at) newest.set(group, one)
  }
  return [...newest.values()]
}

/** The backups that are not needed any more, by UTC days. The newest one always stays, whatever the clock says. */
export function backupsToLetGo(backups: readonly DatedBackup[], now: number): readonly DatedBackup[] {
  const today = dayOf(now)
  const since = (day: EpochDay) => backups.filter(({ at }) => dayOf(at) >= day)
  const newest = backups.reduce<DatedBackup | null>(
    (last, one) => (last && last.at > one.at ? last : one),
    null,
  )
  const kept = new Set([
    ...(newest ? [newest] : []),
    ...newestOfEach(since(today - keptDays + 1), (day) => day),
    ...newestOfEach(since(today - 7 * keptWeeks + 1), weekOf),
    ...newestOfEach(since(addMonths(today, -keptMonths) + 1), monthOf),
  ])
  return backups.filter((one) => !kept.has(one))
}
