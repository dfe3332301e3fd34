import { describe, expect, test } from '@jest/globals'
import { epochDayOf } from '../time/calendar.ts'
import { taskInNote } from './taskInNote.ts'

/* Thursday 14 May 2026. Whitsun is 24 May (Easter Sunday 5 April + 49 days; common practice, no source). */
const today = epochDayOf('2026-05-14')

describe('a task in a note', () => {
  test.each<[string, string, string]>([
    ['Call next week.', 'Call next week', '2026-05-18'],
    [
      'Afraid of heights. Call on 20 May about the basket! Likes tea.',
      'Call on 20 May about the basket',
      '2026-05-20',
    ],
    ['nach Pfingsten anrufen', 'nach Pfingsten anrufen', '2026-05-26'],
    [
      'Sie ist verreist\nbitte am 3. Juni noch einmal schreiben',
      'bitte am 3. Juni noch einmal schreiben',
      '2026-06-03',
    ],
    ['Ring tomorrow at 10', 'Ring tomorrow at 10', '2026-05-15'],
  ])('“%s”', (text, title, dueOn) => {
    expect(taskInNote(text, today, 'en')).toEqual({ title, dueOn })
  })

  test.each(['Afraid of heights.', 'They flew with us on 3 May 2024.', '', 'He may come.'])(
    'none in “%s”',
    (text) => {
      expect(taskInNote(text, today, 'en')).toBeNull()
    },
  )

  test('is no longer than a task can be', () => {
    const task = taskInNote(`${'very '.repeat(100)}long, tomorrow`, today, 'en')
    expect(task?.title.length).toBeLessThanOrEqual(200)
  })
})
