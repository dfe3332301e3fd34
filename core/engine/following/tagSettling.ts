import type { ClientFacts, Slice } from '../../planning/slice.ts'
import { minuteMs } from '../../time/calendar.ts'
import type { EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude, type Starting } from './react.ts'
import { startedRuns } from './startRuns.ts'

/*
 * A tag put on by mistake and taken off within a minute starts nothing: its sequences start when it has settled, with
 * what is left of the quick changes.
 */

/** One stretch of quick changes of a tag: from the first on, for the settle time. */
interface Stretch {
  readonly until: number
  readonly wasOn: boolean
  readonly isOn: boolean
  /** When the tag was last put on in it. */
  readonly addedAt: number
}

function stretchesOf(name: string, { happenings }: ClientFacts, settleMs: number): readonly Stretch[] {
  const stretches: Stretch[] = []
  for (const { kind, name: of, at } of happenings) {
    if (of !== name || (kind !== 'tag added' && kind !== 'tag removed')) continue
    const isOn = kind === 'tag added'
    const last = stretches.at(-1)
    if (last && at <= last.until) {
      stretches[stretches.length - 1] = { ...last, isOn, addedAt: isOn ? at : last.addedAt }
    } else stretches.push({ until: at + settleMs, wasOn: !isOn, isOn, addedAt: at })
  }
  return stretches
}

/** Tags that are settling: until when, and under which key. */
export function pendingTags(slice: Slice, now: number): readonly { key: string; until: number }[] {
  const { client, happenings } = slice.facts
  const names = new Set(happenings.filter(({ kind }) => kind === 'tag added').map(({ name }) => name))
  return [...names].flatMap((name) => {
    const last = stretchesOf(name, slice.facts, settleMs(slice)).at(-1)
    return last && last.until > now ? [{ key: keyOf(client.id, name), until: last.until }] : []
  })
}

const prefix = 'tag '

const keyOf = (clientId: string, name: string) => `${prefix}${clientId} ${name}`

/** The tag that a settle time belongs to; null: it is that of a booking. */
export function tagOfSettling(key: string): string | null {
  return key.startsWith(prefix) ? key.slice(prefix.length + key.slice(prefix.length).indexOf(' ') + 1) : null
}

const settleMs = ({ settings }: Slice) => settings.business.settleMinutes * minuteMs

/** A tag was put on: its sequences start when that has settled, or at once where nothing settles. */
export function tagSettles(trigger: Starting, slice: Slice, context: EngineContext): readonly Effect[] {
  const stretch = stretchesOf(trigger.name, slice.facts, settleMs(slice)).at(-1)
  if (!stretch || stretch.until <= context.now) return startedRuns(trigger, slice, context)
  const { clientId, name } = trigger
  const key = keyOf(clientId, name)
  return [{ kind: 'set due moment', moment: { kind: 'settle ends', key, clientId, at: stretch.until } }]
}

/** The end of a tag's settle time: what it starts begins now, where it is on and was not before. */
export function endTagSettling(slice: Slice, key: string, context: EngineContext): readonly Effect[] {
  const cleared: Effect = { kind: 'clear due moment', moment: { kind: 'settle ends', key } }
  const name = tagOfSettling(key) ?? ''
  const stretch = stretchesOf(name, slice.facts, settleMs(slice)).findLast(
    ({ until }) => until <= context.now,
  )
  if (!stretch || stretch.wasOn || !stretch.isOn) return [cleared]
  const clientId = slice.facts.client.id
  const start: Starting = {
    on: 'tag added',
    name,
    at: context.now,
    actedAt: stretch.addedAt,
    clientId,
    subject: null,
  }
  return conclude(slice, [cleared], context, { settled: [start] })
}
