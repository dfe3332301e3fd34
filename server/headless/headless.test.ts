import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, test } from '@jest/globals'
import { queryTypesText } from './queryTypes.ts'
import { doorsText, formatSchemas } from './schemas.ts'

interface Sent {
  readonly key: { readonly stepId: string; readonly recipientId: string }
  readonly state: string
  readonly due: { readonly iso: string; readonly epochMs: number } | null
  readonly sent: { readonly iso: string } | null
  readonly reason: { readonly code: string } | null
}

function headless(...words: string[]) {
  const { status, stdout, stderr } = spawnSync(
    'node',
    ['--import', 'tsx', 'server/headless/main.ts', ...words],
    {
      encoding: 'utf8',
    },
  )
  return { status, stdout, stderr }
}

function sends(...words: string[]): readonly Sent[] {
  const { status, stdout } = headless(...words)
  expect(status).toBe(0)
  return (JSON.parse(stdout) as { sends: Sent[] }).sends
}

function refusedFile(content: string) {
  const file = join(mkdtempSync(join(tmpdir(), 'vorfreude-')), 'bundle.json')
  writeFileSync(file, content)
  return headless('plan', file)
}

const example = (name: string) => `docs/formats/examples/${name}.json`

describe('the documented examples', () => {
  test('a flight: the plan, with what stands alone and why', () => {
    const planned = sends('plan', example('flight')).map(({ key, state, due }) => [
      key.stepId,
      state,
      due?.iso ?? null,
    ])
    expect(planned).toEqual([
      ['st_booked', 'sent', '2026-05-14T07:40:00+02:00'],
      ['st_wear', 'ready', '2026-05-20T18:00:00+02:00'],
      ['st_call', 'ready', '2026-05-22T18:00:00+02:00'],
      ['st_three', 'dropped', null],
      // It asks for a booking that has taken place: until then it waits for that.
      ['st_pictures', 'expected', null],
    ])
  })

  test('steps of all kinds: one copy an address, a branch, variations field by field', () => {
    const went = sends('rehearse', example('steps')).map(({ key, state, sent }) => [
      key.stepId,
      key.recipientId,
      state,
      sent?.iso ?? null,
    ])
    expect(went).toEqual([
      ['st_booked', 'ct_ida', 'sent', '2026-05-14T07:40:00+02:00'],
      ['st_booked', 'pe_wenke', 'sent', '2026-05-14T07:40:00+02:00'],
      ['st_weigh', '', 'sent', '2026-05-14T08:40:00+02:00'],
      ['st_ready', '', 'sent', '2026-05-18T21:00:00+02:00'],
      ['st_call', 'ct_ida', 'sent', '2026-05-21T17:00:00+02:00'],
      ['st_chase', 'ct_ida', 'skipped', null],
    ])
  })

  test('the flight moved: the old plan is void, what went is due again where the step says so', () => {
    const went = sends('rehearse', example('flight-moved'))
      .filter(({ state }) => state === 'sent')
      .map(({ key, sent }) => [key.stepId, sent?.iso])
    expect(went).toEqual([
      ['st_booked', '2026-05-14T07:40:00+02:00'],
      ['st_wear', '2026-05-20T18:00:00+02:00'],
      ['st_moved', '2026-05-21T10:02:00+02:00'],
      ['st_call', '2026-05-29T18:00:00+02:00'],
      ['st_pictures', '2026-06-01T10:00:00+02:00'],
    ])
  })

  test('an enquiry from another zone: business hours over a holiday, approval, an answer that stops the ladder', () => {
    const all = sends('rehearse', example('enquiry'))
    expect(all.map(({ key, state, sent }) => [key.stepId, state, sent?.iso ?? null])).toEqual([
      ['st_answer', 'sent', '2026-05-13T18:20:00+02:00'],
      ['st_offer', 'sent', '2026-05-19T14:00:00+02:00'],
      ['st_ask', 'sent', '2026-05-22T14:00:00+02:00'],
      ['st_farewell', 'cancelled', null],
    ])
  })
})

test('around the night the clocks go back: days, moves, wishes, a full account and a machine that was off', () => {
  const went = sends('rehearse', example('clocks-back'))
    .filter(({ state }) => state !== 'cancelled')
    .map(({ key, state, sent }) => [key.stepId, key.recipientId, sent?.iso ?? state])
  expect(went).toEqual([
    // Asked for at 08:00, confirmed at 08:30: one start for both, told once.
    ['st_booked', 'ct_ida', '2026-10-01T08:02:00+02:00'],
    // One message an hour goes by the account.
    ['st_place', 'ct_bo', '2026-10-01T09:00:00+02:00'],
    ['st_place', 'ct_cai', '2026-10-01T10:00:00+02:00'],
    // A day after the move of Fri 2 Oct would be a Saturday and a holiday: the next working day.
    ['st_shifted', 'ct_ida', '2026-10-05T10:00:00+02:00'],
    // Both sessions were moved; the machine was off at 17:00.
    ['st_session', 'ct_bo', '2026-10-12T18:30:00+02:00'],
    ['st_session', 'ct_bo', '2026-10-15T17:00:00+02:00'],
    ['st_session', 'ct_cai', '2026-10-19T17:00:00+02:00'],
    // Sunday, no working day, at 02:30 for the second time; booked on Thursday at eight.
    ['st_sunday', 'ct_ida', '2026-10-23T10:00:00+02:00'],
    // The evening before is a Saturday: Friday.
    ['st_wear', 'ct_ida', '2026-10-23T18:00:00+02:00'],
    // Completed by hand, long before it would have been by itself.
    ['st_thanks', 'ct_ida', '2026-10-26T10:00:00+01:00'],
    // A month before 30 November, an offer as well.
    ['st_flown', 'ct_ida', '2026-10-30T09:00:00+01:00'],
    // A week before the date wished for in the end.
    ['st_wish', 'ct_bo', '2026-11-27T09:00:00+01:00'],
    ['st_flown', 'ct_ida', 'ready'],
  ])
})

describe('a wrong bundle is answered with path and reason and exit code 2', () => {
  test('a file that is not there or is no JSON', () => {
    expect(headless('plan', 'nowhere.json')).toMatchObject({
      status: 2,
      stderr: 'nowhere.json: This file cannot be read.\n',
    })
    expect(refusedFile('{"format": ').stderr).toMatch('This is not JSON.')
    expect(headless('sing').status).toBe(2)
  })

  test('an unknown field, a missing one, a zone that does not exist', () => {
    const good = JSON.parse(readFileSync(example('flight'), 'utf8')) as { business: object }
    const unknown = refusedFile(JSON.stringify({ ...good, weather: 'fine' }))
    expect(unknown).toMatchObject({ status: 2 })
    expect(unknown.stderr).toMatch('weather')
    expect(refusedFile(JSON.stringify({ ...good, now: undefined })).stderr).toMatch(/^now: /)
    const nowhere = refusedFile(
      JSON.stringify({ ...good, business: { ...good.business, zone: 'Middle-earth/Shire' } }),
    )
    expect(nowhere.stderr).toBe('business.zone: There is no time zone named Middle-earth/Shire.\n')
  })
})

describe('a time that no clock shows is refused with its path', () => {
  const flight = JSON.parse(readFileSync(example('flight'), 'utf8')) as object

  test('by ./run plan', () => {
    const { status, stderr, stdout } = refusedFile(JSON.stringify({ ...flight, now: '2026-05-13T25:00' }))
    expect({ status, stdout }).toEqual({ status: 2, stdout: '' })
    expect(stderr).toMatch(/^now: A moment looks like 2026-05-14T07:40/)
  })

  test('by ./run rehearse, in its script too', () => {
    const file = join(mkdtempSync(join(tmpdir(), 'vorfreude-')), 'bundle.json')
    const machine = { act: 'machine off', at: '2026-05-14T08:00', until: '2026-05-14T25:00' }
    writeFileSync(file, JSON.stringify({ ...flight, script: [machine], until: '2026-05-31T24:00' }))
    const { status, stderr } = headless('rehearse', file)
    expect(status).toBe(2)
    expect(stderr).toMatch(/^script\.0\.until: A moment looks like/m)
    expect(stderr).toMatch(/^until: A moment looks like/m)
  })
})

test('what the pages know of the endpoints is what the endpoints say', () => {
  expect(readFileSync('core/api/doors.json', 'utf8')).toBe(doorsText())
})

test('what the program knows of the queries is what they are given and give', () => {
  expect(readFileSync('server/db/queryTypes.ts', 'utf8')).toBe(queryTypesText())
})

test('the JSON Schemas in docs/formats are those of the code', () => {
  for (const [name, text] of Object.entries(formatSchemas())) {
    expect(readFileSync(`docs/formats/${name}`, 'utf8')).toBe(text)
  }
})
