import { describe, expect, test } from '@jest/globals'
import { epochDayOf, minuteMs } from '#core/time/calendar.ts'
import { realZones } from '#core/time/realZones.ts'
import { instantAt } from '#core/time/zones.ts'
import { ApiProblem } from '../app/api.ts'
import { byDay } from './byDay.ts'
import { fieldErrors } from './fieldErrors.ts'
import { othersThan } from './others.ts'
import { endFor, localTimes } from './times.ts'
import { withPictures } from './withPictures.ts'

const berlin = realZones.zone('Europe/Berlin')

describe('the times of a form', () => {
  test('an end before the start is on the next day', () => {
    expect(localTimes({ date: '2026-12-31', start: '22:00', end: '01:00' })).toEqual({
      startLocal: '2026-12-31T22:00',
      endLocal: '2027-01-01T01:00',
    })
    expect(localTimes({ date: '2026-05-14', start: '10:00', end: '12:00' })?.endLocal).toBe(
      '2026-05-14T12:00',
    )
  })

  test.each([
    { date: null, start: '10:00', end: '12:00' },
    { date: '2026-05-14', start: '', end: '12:00' },
    { date: '2026-05-14', start: '10:00', end: '' },
  ])('with something missing are none yet: %j', (times) => {
    expect(localTimes(times)).toBeNull()
  })

  // The clocks go forward at 02:00 on 29 March 2026 and back at 03:00 on 25 October 2026 (tz database, Europe/Berlin).
  test.each([
    ['2026-05-14', '10:00', 120, '12:00'],
    ['2026-03-29', '01:00', 120, '04:00'],
    ['2026-10-25', '01:00', 180, '03:00'],
    ['2026-05-14', '23:00', 120, '01:00'],
  ])('on %s from %s for %i minutes it ends at %s', (date, start, minutes, end) => {
    expect(endFor(berlin, date, start, minutes)).toBe(end)
  })
})

test('what comes in order is gathered by the local date, also around midnight', () => {
  const at = (date: string, minute: number) => ({ at: instantAt(berlin, epochDayOf(date), minute) })
  const items = [at('2026-05-14', 23 * 60 + 59), at('2026-05-15', 0), at('2026-05-15', 12 * 60)]
  expect(byDay(items, berlin, (item) => item.at)).toEqual([
    { day: epochDayOf('2026-05-14'), items: [items[0]] },
    { day: epochDayOf('2026-05-15'), items: [items[1], items[2]] },
  ])
  expect(byDay([], berlin, () => minuteMs)).toEqual([])
})

test('faults lose the name of the part they are in, and keep others', () => {
  const problem = new ApiProblem({
    type: 'urn:vorfreude:problem:invalid',
    title: 'Not possible',
    status: 422,
    detail: 'Look again.',
    code: 'invalid',
    errors: [
      { path: 'client.name', detail: 'It needs a name.' },
      { path: 'clientele', detail: 'Not this one.' },
    ],
  })
  expect(fieldErrors(problem, 'client')).toEqual({ name: 'It needs a name.', clientele: 'Not this one.' })
  expect(fieldErrors(problem)).toEqual({ 'client.name': 'It needs a name.', clientele: 'Not this one.' })
})

test('others are those an act names none of', () => {
  const line = (...sendIds: string[]) => ({ sendIds }) as unknown as Parameters<typeof othersThan>[1][number]
  const lines = [line('sd_1'), line('sd_2', 'sd_3'), line('sd_4')]
  expect(othersThan(['sd_1', 'sd_3'], lines)).toEqual([lines[2]])
})

test('pictures of a message are shown from this house, and nothing else is', () => {
  const html = '<img src="cid:pc_01a2-b@vorfreude"><img src="cid:other@elsewhere">'
  expect(withPictures(html)).toBe('<img src="/api/files/pc_01a2-b"><img src="cid:other@elsewhere">')
})
