import { describe, expect, test } from '@jest/globals'
import { fillPath } from '#core/api/endpoint.ts'
import { endpoints } from '#core/api/endpoints.ts'
import { isoDateOf } from '#core/time/calendar.ts'
import { realZones } from '#core/time/realZones.ts'
import { ApiProblem } from '../app/api.ts'
import { byDay } from './byDay.ts'
import { fieldErrors } from './fieldErrors.ts'

describe('lists by day', () => {
  test('gather by the local date of the zone, in the order they come', () => {
    const moments = ['2026-05-14T21:30:00Z', '2026-05-14T22:30:00Z', '2026-05-15T10:00:00Z'].map(Date.parse)
    const days = (zoneName: string) =>
      byDay(moments, realZones.zone(zoneName), (at) => at).map(({ day, items }) => [
        isoDateOf(day),
        items.length,
      ])
    expect(days('Europe/Berlin')).toEqual([
      ['2026-05-14', 1],
      ['2026-05-15', 2],
    ])
    expect(days('America/New_York')).toEqual([
      ['2026-05-14', 2],
      ['2026-05-15', 1],
    ])
  })
})

describe('what the server found wrong', () => {
  const problem = new ApiProblem({
    type: 'x',
    title: 'x',
    status: 422,
    detail: 'x',
    code: 'invalid',
    errors: [
      { path: 'client.contacts.0.email', detail: 'no address' },
      { path: 'zone', detail: 'no zone' },
    ],
  })

  test('is told beside its field, without the name of the part', () => {
    expect(fieldErrors(problem, 'client')).toEqual({ 'contacts.0.email': 'no address', zone: 'no zone' })
    expect(fieldErrors(problem)).toHaveProperty(['client.contacts.0.email'])
  })
})

describe('addresses of the API', () => {
  test('fill their parameters in, encoded', () => {
    expect(fillPath(endpoints.mailbox.path, { address: 'a/b@c.example' })).toBe(
      '/api/mailboxes/a%2Fb%40c.example',
    )
  })

  test('are all different, and what changes something is for the team or the way in', () => {
    const all = Object.values(endpoints)
    const addresses = all.map(({ method, path }) => `${method} ${path}`)
    expect(new Set(addresses).size).toBe(addresses.length)
    const open = all.filter(({ access }) => access === 'anybody').map(({ path }) => path)
    expect([...new Set(open)].sort()).toEqual([
      '/api/first-run',
      '/api/session',
      '/api/session/demo',
      '/api/way-in',
      '/api/way-in/forgotten',
      '/api/way-in/look',
    ])
  })
})
