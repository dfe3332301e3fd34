import { packBase60, unpackBase60, type PackedZones } from './zones.ts'

interface Cut {
  readonly name: string
  /** All of the zone but its name. */
  readonly rules: string
}

/** One zone from a moment on, in whole minutes of the epoch: what was before is as the period that the moment lies in. */
function cutZone(line: string, fromMinute: number): Cut {
  const [name = '', , offsetWords = '', indices = '', untilWords = ''] = line.split('|')
  const offsets = offsetWords.split(' ')
  let until = 0
  const untils = untilWords === '' ? [] : untilWords.split(' ').map((word) => (until += unpackBase60(word)))
  const gone = untils.filter((end) => end <= fromMinute).length
  const kept = Array.from(indices).slice(gone)
  const used = [...new Set(kept)]
  let last = 0
  const words = untils.slice(gone).map((end) => {
    const word = packBase60(Math.round(end) - last)
    last = Math.round(end)
    return word
  })
  const parts = [
    '',
    used.map((index) => offsets[unpackBase60(index)] ?? '0').join(' '),
    kept.map((index) => packBase60(used.indexOf(index))).join(''),
    words.join(' '),
  ]
  return { name, rules: parts.join('|') }
}

/** Packed zones from a moment on. Those that are alike from then on become links to the first of them. */
export function cutZones(packed: PackedZones, from: number): PackedZones {
  const firsts = new Map<string, string>()
  const targets = new Map<string, string>()
  for (const { name, rules } of packed.zones.map((line) => cutZone(line, from / 60_000))) {
    const first = firsts.get(rules)
    if (first === undefined) firsts.set(rules, name)
    else targets.set(name, first)
  }
  const links = packed.links.map((link) => {
    const [target = '', alias = ''] = link.split('|')
    return `${targets.get(target) ?? target}|${alias}`
  })
  return {
    version: packed.version,
    zones: [...firsts].map(([rules, name]) => `${name}|${rules}`),
    links: [...[...targets].map(([alias, target]) => `${target}|${alias}`), ...links],
  }
}
