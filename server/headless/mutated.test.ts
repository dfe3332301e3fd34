import { expect, test } from '@jest/globals'
import { readFileSync } from 'node:fs'
import { bundle, rehearsalBundle } from '#core/rehearsal/bundle.ts'
import { BundleFault } from '#core/rehearsal/bundleSettings.ts'
import { playBundle } from '#core/rehearsal/playBundle.ts'
import { report } from '#core/rehearsal/report.ts'
import { chanceFrom } from '../testing/chance.ts'
import { oddities } from '../testing/fromSchema.ts'
import { outside } from './outside.ts'

/* Bundles with something changed in them: each is refused with a path and a reason, or planned; nothing is thrown. */

const bundles = Number(
  process.env['VORFREUDE_BUNDLES'] ?? (process.env['VORFREUDE_FULL'] === 'yes' ? 60_000 : 1_000),
)
const chance = chanceFrom(Number(process.env['VORFREUDE_SEED'] ?? 20260514))
const upTo = (most: number) => Math.floor(chance() * most)

const examples = ['flight', 'flight-moved', 'enquiry', 'clocks-back'].map(
  (name) =>
    JSON.parse(
      readFileSync(new URL(`../../docs/formats/examples/${name}.json`, import.meta.url), 'utf8'),
    ) as object,
)

type Place = readonly [holder: Record<string, unknown> | unknown[], key: string]

function placesIn(value: unknown): Place[] {
  if (typeof value !== 'object' || value === null) return []
  return Object.entries(value).flatMap(([key, inner]): Place[] => [
    [value as Record<string, unknown>, key],
    ...placesIn(inner),
  ])
}

/** Dates, times and numbers next to those that stand there, and things nobody thinks of. */
function changed(value: unknown): unknown {
  if (chance() < 0.4) return oddities[upTo(oddities.length)]
  if (typeof value === 'number') return [value + 1, -value, value * 1000, 0.5, 1e9][upTo(5)]
  if (typeof value === 'boolean') return !value
  if (typeof value === 'string') {
    const digits = [...value.matchAll(/\d/g)]
    const at = digits[upTo(digits.length)]?.index
    if (at !== undefined) return value.slice(0, at) + String(upTo(10)) + value.slice(at + 1)
    return [`${value}x`, value.slice(1), ''][upTo(3)]
  }
  return Array.isArray(value) ? [value, value].flat() : null
}

function mutate(example: object): unknown {
  const copy = structuredClone(example)
  for (let count = 1 + upTo(2); count > 0; count -= 1) {
    const places = placesIn(copy)
    const [holder, key] = places[upTo(places.length)] ?? [copy as Record<string, unknown>, 'now']
    if (chance() < 0.15 && !Array.isArray(holder)) Reflect.deleteProperty(holder, key)
    else (holder as Record<string, unknown>)[key] = changed((holder as Record<string, unknown>)[key])
  }
  return copy
}

function play(value: unknown) {
  const isRehearsal = typeof value === 'object' && value !== null && 'script' in value
  if (!isRehearsal) {
    const read = bundle.safeParse(value)
    return read.success ? playBundle(read.data, [], read.data.now, outside) : null
  }
  const read = rehearsalBundle.safeParse(value)
  if (!read.success) return null
  const { script, until, ...data } = read.data
  return playBundle(data, script, until, outside)
}

/** What becomes of a bundle: refused, or planned. */
function outcomeOf(value: unknown): 'refused' | 'planned' {
  try {
    const played = play(value)
    if (!played) return 'refused'
    JSON.stringify(report(played.settings, played.worlds, played.until))
    return 'planned'
  } catch (fault) {
    if (fault instanceof BundleFault && fault.path !== '') return 'refused'
    throw new Error(`${String(fault)}\n${JSON.stringify(value)}`, { cause: fault })
  }
}

test('a changed bundle is refused or planned, and nothing is thrown', () => {
  const counts = { refused: 0, planned: 0 }
  for (let count = 0; count < bundles; count += 1) {
    counts[outcomeOf(mutate(examples[count % examples.length] ?? {}))] += 1
  }
  expect(Math.min(counts.refused, counts.planned)).toBeGreaterThan(bundles / 20)
}, 1_200_000)
