import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { dayMs, hourMs } from '../time/calendar.ts'
import { backupsToLetGo, keptDays, keptMonths, keptWeeks, type DatedBackup } from './backupAges.ts'

const start = Date.UTC(2026, 0, 1, 3)
const named = (at: number): DatedBackup => ({ name: new Date(at).toISOString(), at })
const rest = (backups: readonly DatedBackup[], now: number) => {
  const gone = new Set(backupsToLetGo(backups, now))
  return backups.filter((one) => !gone.has(one))
}

/** A backup every so often for so many days, and what is left of them, looked through after each. */
function livedThrough(days: number, everyHours: number): readonly DatedBackup[] {
  let kept: readonly DatedBackup[] = []
  for (let at = start; at < start + days * dayMs; at += everyHours * hourMs)
    kept = rest([...kept, named(at)], at)
  return kept
}

describe('the backups that are kept', () => {
  test('are one of each of the last 7 days, 4 weeks and 12 months, after years of daily ones', () => {
    const days = 3 * 365
    const kept = livedThrough(days, 24)
    const now = start + (days - 1) * dayMs
    const ages = kept.map(({ at }) => Math.round((now - at) / dayMs)).toReversed()
    expect(ages.slice(0, keptDays)).toEqual([0, 1, 2, 3, 4, 5, 6])
    const months = new Set(kept.map(({ name }) => name.slice(0, 7)))
    expect(months.size).toBeGreaterThanOrEqual(keptMonths)
    for (let week = 0; week < keptWeeks; week += 1) {
      expect(ages.some((age) => age >= 7 * week && age < 7 * (week + 1))).toBe(true)
    }
    expect(kept.length).toBeLessThanOrEqual(keptDays + keptWeeks + 1 + keptMonths + 1)
  })

  test('are of one day the newest', () => {
    expect(rest([named(start), named(start + hourMs)], start + 2 * hourMs)).toEqual([named(start + hourMs)])
  })

  test('always hold the newest, whatever the clock says, and nothing is let go of twice', () => {
    const moments = fc.array(fc.integer({ min: 0, max: 2000 }), { minLength: 1, maxLength: 60 })
    fc.assert(
      fc.property(moments, fc.integer({ min: -500, max: 4000 }), (days, today) => {
        const backups = [...new Set(days)].map((day) => named(start + day * dayMs))
        const now = start + today * dayMs
        const kept = rest(backups, now)
        const newest = Math.max(...backups.map(({ at }) => at))
        expect(kept.map(({ at }) => at)).toContain(newest)
        expect(backupsToLetGo(kept, now)).toEqual([])
      }),
    )
  })
})
