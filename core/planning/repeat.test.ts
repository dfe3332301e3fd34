import { describe, expect, test } from '@jest/globals'
import rrule from 'rrule'
import type { Send } from '../model/send.ts'
import type { Span } from '../model/timing.ts'
import {
  at,
  exampleClient,
  exampleRun,
  exampleSend,
  exampleSettings,
  exampleStep,
} from '../rehearsal/exampleBusiness.ts'
import { clockTime, isoWithOffset } from '../time/format.ts'
import { realZones } from '../time/realZones.ts'
import { furtherOccurrences } from './furtherOccurrences.ts'
import { planClient } from './planClient.ts'
import { factsOf, type Settings, type Slice } from './slice.ts'

const newYork = realZones.zone('America/New_York')
const start = at(realZones, 'America/New_York', '1997-09-02 09:00')
const always = Array.from({ length: 7 }, () => [{ from: '00:00', to: '24:00' as const }])

function settingsOf(every: Span, atMost: number): Settings {
  const step = exampleStep({
    id: 'st_again',
    purpose: 'payment',
    timing: { kind: 'at once' },
    repeat: { every, untilCondition: null, untilAnchor: null, atMost },
  })
  const settings = exampleSettings(realZones, [step])
  const sendingHours = { weekly: always, holidays: 'open' as const, closedDates: [] }
  return { ...settings, business: { ...settings.business, zone: 'America/New_York', sendingHours } }
}

const run = exampleRun({ subject: { kind: 'client', id: exampleClient.id }, startedAt: start })

/** The moments of a repeat of which each goes at its time. */
function played(every: Span, count: number): number[] {
  const settings = settingsOf(every, count)
  let sends: Send[] = []
  for (;;) {
    const slice: Slice = { settings, facts: factsOf(exampleClient, { runs: [run], sends }) }
    const next = planClient(slice, start).find(
      ({ occurrence }) => !sends.some((send) => send.occurrence === occurrence),
    )
    if (!next?.dueAt) return sends.map(({ sentAt }) => sentAt ?? 0)
    sends = [...sends, exampleSend(next)]
  }
}

const dates = (moments: readonly number[]) =>
  moments.map((moment) => isoWithOffset(newYork, moment).slice(0, 10))

describe('repeats against RFC 5545 3.8.5.3 (DTSTART;TZID=America/New_York:19970902T090000)', () => {
  test('daily for 10 occurrences: September 2 to 11', () => {
    const days = dates(played({ amount: 1, unit: 'days' }, 10))
    expect([days[0], days.at(-1), days.length]).toEqual(['1997-09-02', '1997-09-11', 10])
  })

  test('every 10 days, 5 occurrences: September 2, 12, 22, October 2, 12', () => {
    expect(dates(played({ amount: 10, unit: 'days' }, 5))).toEqual([
      '1997-09-02',
      '1997-09-12',
      '1997-09-22',
      '1997-10-02',
      '1997-10-12',
    ])
  })

  test('weekly for 10 occurrences, at 09:00 EDT to October 21 and at 09:00 EST from October 28 on', () => {
    const moments = played({ amount: 1, unit: 'weeks' }, 10)
    expect(moments.map((moment) => clockTime(newYork, moment))).toEqual(
      Array.from({ length: 10 }, () => '09:00'),
    )
    expect(isoWithOffset(newYork, moments[7] ?? 0)).toBe('1997-10-21T09:00:00-04:00')
    expect(isoWithOffset(newYork, moments[8] ?? 0)).toBe('1997-10-28T09:00:00-05:00')
  })
})

describe('repeats against the rrule library, expanded without a zone', () => {
  const { RRule } = rrule
  const cases: readonly (readonly [Span, 'DAILY' | 'WEEKLY' | 'MONTHLY' | 'YEARLY'])[] = [
    [{ amount: 3, unit: 'days' }, 'DAILY'],
    [{ amount: 2, unit: 'weeks' }, 'WEEKLY'],
    [{ amount: 1, unit: 'months' }, 'MONTHLY'],
    [{ amount: 5, unit: 'months' }, 'MONTHLY'],
    [{ amount: 1, unit: 'years' }, 'YEARLY'],
  ]
  test.each(cases)('%j', (every, freq) => {
    const rule = new RRule({
      freq: RRule[freq],
      interval: every.amount,
      count: 24,
      dtstart: new Date(Date.UTC(1997, 8, 2, 9)),
    })
    const expected = rule.all().map((date) => date.toISOString().slice(0, 10))
    expect(dates(played(every, 24))).toEqual(expected)
  })
})

describe('what follows an open occurrence of a repeat', () => {
  /** The first occurrence as it stands while it has not gone, in a business of its own. */
  function first(every: Span, atMost: number) {
    const settings = settingsOf(every, atMost)
    const slice: Slice = { settings, facts: factsOf(exampleClient, { runs: [run] }) }
    const [planned] = planClient(slice, start)
    if (!planned) throw new Error('nothing is planned')
    const send: Send = { ...exampleSend(planned), state: 'ready', dueAt: planned.dueAt, sentAt: null }
    return { send, slice: { settings, facts: { ...slice.facts, sends: [send] } } }
  }

  test.each<[Span, number]>([
    [{ amount: 1, unit: 'days' }, 10],
    [{ amount: 1, unit: 'weeks' }, 10],
    [{ amount: 10, unit: 'days' }, 5],
  ])('every %o is what comes if each goes at its time', (every, count) => {
    const { send, slice } = first(every, count)
    expect([send.dueAt, ...furtherOccurrences(send, slice, start)]).toEqual(played(every, count))
  })

  test('is nothing for the last one, and for one that is not open', () => {
    const { send, slice } = first({ amount: 1, unit: 'days' }, 1)
    expect(furtherOccurrences(send, slice, start)).toEqual([])
    expect(furtherOccurrences({ ...send, state: 'skipped' }, slice, start)).toEqual([])
  })
})
