import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { hoursFault, hoursText, readHours } from './hoursText.ts'

describe('hours as they are typed', () => {
  test.each([
    ['8-12, 13-17', '08:00–12:00, 13:00–17:00'],
    ['0830–12.15', '08:30–12:15'],
    ['13:00–17:00 and 08:00 to 12:00', '08:00–12:00, 13:00–17:00'],
    ['0-24', '00:00–24:00'],
    ['', ''],
    [' , ', ''],
  ])('%s is %s', (typed, meant) => {
    expect(hoursText(readHours(typed) ?? [{ from: 'not', to: 'read' }])).toBe(meant)
    expect(hoursFault(typed)).toBeNull()
  })

  test.each(['17-8', '8', '8-12-14', '8-25', '8:70-9', '8-12, 11-13', 'mornings', '24:30-25'])(
    '%s is refused',
    (typed) => {
      expect(readHours(typed)).toBeNull()
      expect(hoursFault(typed)).toContain('08:00–12:00')
    },
  )

  test('what is shown is read as the same hours', () => {
    const minute = fc.integer({ min: 0, max: 1440 })
    fc.assert(
      fc.property(fc.uniqueArray(minute, { maxLength: 8 }), (minutes) => {
        const times = minutes
          .toSorted((one, other) => one - other)
          .map((at) => `${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`)
        const day = times.flatMap((from, index) => {
          const to = times[index + 1]
          return index % 2 === 0 && to !== undefined ? [{ from, to }] : []
        })
        expect(readHours(hoursText(day))).toEqual(day)
      }),
    )
  })
})
