import { dayAt, type Zone } from '#core/time/zones.ts'
import type { EpochDay } from '#core/time/calendar.ts'

export interface DayGroup<Item> {
  readonly day: EpochDay
  readonly items: readonly Item[]
}

/** Items gathered by the local date of a moment, in the order they come. */
export function byDay<Item>(
  items: readonly Item[],
  zone: Zone,
  momentOf: (item: Item) => number,
): DayGroup<Item>[] {
  const groups = new Map<EpochDay, Item[]>()
  for (const item of items) {
    const day = dayAt(zone, momentOf(item))
    const group = groups.get(day)
    if (group) group.push(item)
    else groups.set(day, [item])
  }
  return [...groups].map(([day, group]) => ({ day, items: group }))
}
