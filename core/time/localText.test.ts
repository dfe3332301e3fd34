import { describe, expect, test } from '@jest/globals'
import { realZones } from './realZones.ts'
import { instantOfLocal, localAt } from './localText.ts'

/*
 * Source: the IANA time zone database, rule EU for Europe/Berlin: +02:00 from the last Sunday of March, 01:00 UTC, +01:00
 * from the last Sunday of October, 01:00 UTC; in 2026 these are 29 March and 25 October.
 */
const berlin = realZones.zone('Europe/Berlin')

describe('a local reading', () => {
  test('is an instant of its zone, in summer and in winter', () => {
    expect(instantOfLocal(berlin, '2026-05-16T05:20')).toBe(Date.parse('2026-05-16T03:20:00Z'))
    expect(instantOfLocal(berlin, '2026-12-01T05:20')).toBe(Date.parse('2026-12-01T04:20:00Z'))
  })

  test('comes back from its instant, but for the hour that there is twice', () => {
    for (const local of ['2026-01-01T00:00', '2026-03-29T03:00', '2026-10-25T01:59', '2027-12-31T23:59']) {
      expect(localAt(berlin, instantOfLocal(berlin, local))).toBe(local)
    }
    expect(localAt(berlin, Date.parse('2026-10-25T00:30:00Z'))).toBe('2026-10-25T02:30')
    expect(localAt(berlin, Date.parse('2026-10-25T01:30:00Z'))).toBe('2026-10-25T02:30')
  })
})
