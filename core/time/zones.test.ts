import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { Temporal } from 'temporal-polyfill'
import { epochDayOf, hourMs, isoDateOf, minuteMs, minuteOfDay } from './calendar.ts'
import packed from 'moment-timezone/data/packed/latest.json' with { type: 'json' }
import { cutZones } from './cutZones.ts'
import { packedZones, realZones } from './realZones.ts'
import { createZoneTable, instantAt, instantOf, offsetAt, unpackBase60, wallAt } from './zones.ts'

const reading = (zoneName: string, date: string, time: string) =>
  instantAt(realZones.zone(zoneName), epochDayOf(date), minuteOfDay(time))
const utc = (text: string) => Date.parse(text)

describe('a local time in a gap or an overlap', () => {
  // RFC 5545 3.3.5, its two examples for New York.
  test('2007-03-11 02:30 does not exist in New York: it is 03:30 EDT, UTC−4', () => {
    const zone = realZones.zone('America/New_York')
    const instant = reading('America/New_York', '2007-03-11', '02:30')
    expect(instant).toBe(utc('2007-03-11T07:30:00Z'))
    expect(offsetAt(zone, instant)).toBe(-4 * hourMs)
    expect(wallAt(zone, instant).msOfDay).toBe(3.5 * hourMs)
  })

  test('2007-11-04 01:30 occurs twice in New York: it is the first, EDT, UTC−4', () => {
    expect(reading('America/New_York', '2007-11-04', '01:30')).toBe(utc('2007-11-04T05:30:00Z'))
  })

  test('a gap of half an hour, at Lord Howe', () => {
    // 2026-10-04 02:00 becomes 02:30 there: from UTC+10:30 to UTC+11 (tz database).
    expect(reading('Australia/Lord_Howe', '2026-10-04', '02:15')).toBe(utc('2026-10-03T15:45:00Z'))
  })

  test('a day without a midnight, in São Paulo in 2018', () => {
    // 2018-11-04 began at 01:00 there (tz database).
    expect(reading('America/Sao_Paulo', '2018-11-04', '00:00')).toBe(utc('2018-11-04T03:00:00Z'))
  })
})

describe('against the Temporal reference', () => {
  // Compared with temporal-polyfill, one zone with a half-hour change and one that changes around Ramadan.
  const zoneNames = [
    'Europe/Berlin',
    'America/New_York',
    'Australia/Lord_Howe',
    'Africa/Casablanca',
    'Asia/Kolkata',
    'Pacific/Auckland',
  ]
  // Changes that the host's own tz data may not know yet lie after this.
  const from = utc('1990-01-02T00:00:00Z')
  const to = utc('2025-01-01T00:00:00Z')

  test.each(zoneNames)('wall readings of random instants in %s', (name) => {
    const zone = realZones.zone(name)
    fc.assert(
      fc.property(fc.integer({ min: from / minuteMs, max: to / minuteMs }), (minute) => {
        const instant = minute * minuteMs
        const expected = Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(name)
        const { day, msOfDay } = wallAt(zone, instant)
        expect(isoDateOf(day)).toBe(expected.toPlainDate().toString())
        expect(msOfDay).toBe(expected.hour * hourMs + expected.minute * minuteMs + expected.second * 1000)
      }),
      { numRuns: 500 },
    )
  })

  test.each(zoneNames)('instants of random wall readings in %s', (name) => {
    const zone = realZones.zone(name)
    fc.assert(
      fc.property(fc.integer({ min: from / minuteMs, max: to / minuteMs }), (minute) => {
        const local = new Date(minute * minuteMs).toISOString().slice(0, 16)
        const expected = Temporal.PlainDateTime.from(local).toZonedDateTime(name, {
          disambiguation: 'compatible',
        })
        expect(instantOf(zone, { day: Math.floor(minute / 1440), msOfDay: (minute % 1440) * minuteMs })).toBe(
          expected.epochMilliseconds,
        )
      }),
      { numRuns: 500 },
    )
  })
})

describe('the zone table', () => {
  test('knows its version, links and names', () => {
    expect(realZones.version).toMatch(/^20\d\d[a-z]$/)
    expect(realZones.has('Europe/Berlin')).toBe(true)
    expect(realZones.has('Middle-earth/Shire')).toBe(false)
    expect(realZones.zone('Asia/Calcutta').offsets).toEqual(realZones.zone('Asia/Kolkata').offsets)
    expect(realZones.names()).toContain('Asia/Calcutta')
  })

  test('refuses a name that is not in the data', () => {
    expect(() => realZones.zone('Middle-earth/Shire')).toThrow(
      'There is no time zone named Middle-earth/Shire',
    )
  })

  test('unpacks numbers in base 60, with fraction and sign', () => {
    expect(unpackBase60('-1')).toBe(-1)
    expect(unpackBase60('10')).toBe(60)
    expect(unpackBase60('0.u')).toBe(0.5)
  })

  test('a zone with a single period has no changes', () => {
    const table = createZoneTable({ version: 'x', zones: ['Etc/Test|T|-60|0||'], links: [] })
    expect(offsetAt(table.zone('Etc/Test'), 0)).toBe(6 * hourMs)
  })
})

describe('the zones that ship', () => {
  test('are those of the tz data from 1990 on, none left out', () => {
    expect(cutZones(packed, utc('1990-01-01T00:00:00Z'))).toEqual(packedZones)
    expect(realZones.names()).toEqual(createZoneTable(packed).names())
  })

  test('have the same offsets there, in every zone, before and after every change', () => {
    const whole = createZoneTable(packed)
    const from = utc('1990-01-01T00:00:00Z')
    for (const name of whole.names()) {
      const present = realZones.zone(name)
      const known = whole.zone(name)
      const changes = [...known.ends].filter((end) => end > from && end !== Infinity)
      const moments = [from, ...changes.flatMap((end) => [end - 1, end]), utc('2037-12-31T00:00:00Z')]
      expect(moments.map((at) => offsetAt(present, at))).toEqual(moments.map((at) => offsetAt(known, at)))
    }
  })
})
