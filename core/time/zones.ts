import { dayMs, minuteMs, type EpochDay, type MinuteOfDay } from './calendar.ts'

/**
 * Zones from packed tz data: for each zone the moments its offset changes, searched by bisection.
 * All conversions start from the local date, never from a shifted instant.
 */
export interface Zone {
  readonly name: string
  /** Period i lasts up to, not including, `ends[i]` (epoch ms); the last one is endless. */
  readonly ends: Float64Array
  /** Milliseconds that local time is ahead of UTC, period by period. */
  readonly offsets: Float64Array
}

/** The packed form: one line a zone, `name|abbreviations|offsets|indices|untils|…`, and links `new|old`. */
export interface PackedZones {
  readonly version: string
  readonly zones: readonly string[]
  readonly links: readonly string[]
}

export interface ZoneTable {
  /** Version of the tz data, such as `2026f`. */
  readonly version: string
  has(name: string): boolean
  /** Throws a RangeError for a name that is not in the data. */
  zone(name: string): Zone
  names(): readonly string[]
  /** The zone as a line of packed tz data, under this name. Throws like `zone`. */
  packed(name: string): string
}

const digits = '0123456789abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWX'

/** A number in base 60 with an optional fraction, as packed tz data writes minutes. */
export function unpackBase60(text: string): number {
  const negative = text.startsWith('-')
  const [whole = '', fraction = ''] = (negative ? text.slice(1) : text).split('.')
  let value = 0
  for (const digit of whole) value = value * 60 + digits.indexOf(digit)
  let weight = 1
  for (const digit of fraction) {
    weight /= 60
    value += digits.indexOf(digit) * weight
  }
  return negative ? -value : value
}

/** A whole number in base 60, as packed tz data writes minutes. */
export function packBase60(value: number): string {
  if (value < 0) return `-${packBase60(-value)}`
  const rest = digits[value % 60] ?? ''
  return value < 60 ? rest : packBase60(Math.floor(value / 60)) + rest
}

/** The zone a line of packed tz data describes. */
export function unpackZone(line: string): Zone {
  const [name = '', , offsetWords = '', indices = '', untilWords = ''] = line.split('|')
  const minutesBehind = offsetWords.split(' ').map(unpackBase60)
  const offsets = Float64Array.from(Array.from(indices), (digit) => {
    const behind = minutesBehind[unpackBase60(digit)] ?? 0
    return -Math.round(behind * 60) * 1000
  })
  const ends = new Float64Array(offsets.length)
  let until = 0
  untilWords.split(' ').forEach((word, index) => {
    if (index >= offsets.length - 1) return
    until += unpackBase60(word)
    ends[index] = Math.round(until * 60) * 1000
  })
  ends[offsets.length - 1] = Infinity
  return { name, ends, offsets }
}

/** What a person is told of a name that is no zone's. */
export const noSuchZone = (name: string) =>
  `There is no time zone named ${name}. One looks like Europe/Berlin.`

/** Makes the zone table. Zones are unpacked when first asked for. */
export function createZoneTable(packed: PackedZones): ZoneTable {
  const lines = new Map(packed.zones.map((line) => [line.slice(0, line.indexOf('|')), line]))
  const targets = new Map(
    packed.links.map((link): [string, string] => {
      const [target = '', alias = ''] = link.split('|')
      return [alias, target]
    }),
  )
  const unpacked = new Map<string, Zone>()
  const lineOf = (name: string) => lines.get(name) ?? lines.get(targets.get(name) ?? '')
  const required = (name: string) => {
    const line = lineOf(name)
    if (!line) throw new RangeError(`There is no time zone named ${name}`)
    return line
  }
  return {
    version: packed.version,
    has: (name) => lineOf(name) !== undefined,
    zone(name) {
      const known = unpacked.get(name)
      if (known) return known
      const zone = { ...unpackZone(required(name)), name }
      unpacked.set(name, zone)
      return zone
    },
    packed: (name) => name + required(name).slice(required(name).indexOf('|')),
    names: () => [...lines.keys(), ...targets.keys()].sort(),
  }
}

function periodAt(zone: Zone, instant: number): number {
  let low = 0
  let high = zone.ends.length - 1
  while (low < high) {
    const middle = (low + high) >> 1
    if (instant < (zone.ends[middle] ?? Infinity)) high = middle
    else low = middle + 1
  }
  return low
}

/** Milliseconds that the zone's clocks are ahead of UTC at an instant. */
export function offsetAt(zone: Zone, instant: number): number {
  return zone.offsets[periodAt(zone, instant)] ?? 0
}

/** What the clock on the wall shows. */
export interface Wall {
  readonly day: EpochDay
  /** Milliseconds since local midnight as the clock shows it. */
  readonly msOfDay: number
}

export function wallAt(zone: Zone, instant: number): Wall {
  const local = instant + offsetAt(zone, instant)
  const day = Math.floor(local / dayMs)
  return { day, msOfDay: local - day * dayMs }
}

export function dayAt(zone: Zone, instant: number): EpochDay {
  return Math.floor((instant + offsetAt(zone, instant)) / dayMs)
}

/** Longest distance between a local reading and UTC that any zone has had, with room to spare. */
const widestOffsetMs = 16 * 60 * minuteMs

/**
 * The instant of a wall reading. A reading that occurs twice is the first one; a reading skipped by a
 * clock change is taken with the offset before the gap (RFC 5545 3.3.5).
 */
export function instantOf(zone: Zone, { day, msOfDay }: Wall): number {
  const local = day * dayMs + msOfDay
  let offsetBeforeGap: number | undefined
  for (let period = periodAt(zone, local - widestOffsetMs); period < zone.ends.length; period += 1) {
    const offset = zone.offsets[period] ?? 0
    const candidate = local - offset
    const start = period === 0 ? -Infinity : (zone.ends[period - 1] ?? Infinity)
    if (candidate < start) return local - (offsetBeforeGap ?? offset)
    if (candidate < (zone.ends[period] ?? Infinity)) return candidate
    offsetBeforeGap = offset
  }
  throw new RangeError(`No instant for a reading in ${zone.name}`)
}

export function instantAt(zone: Zone, day: EpochDay, minute: MinuteOfDay): number {
  return instantOf(zone, { day, msOfDay: minute * minuteMs })
}
