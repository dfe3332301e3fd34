import type { MergeFactsView } from '#core/api/letterEndpoints.ts'
import type { MergeFacts } from '#core/letters/fields.ts'
import { realZones } from '#core/time/realZones.ts'

/** What came over the wire, with its zone. */
export function hydrated({ zoneName, ...facts }: MergeFactsView): MergeFacts {
  const { zone } = facts.client
  return {
    ...facts,
    zone: realZones.zone(zoneName),
    readerZone: zone === null ? null : realZones.zone(zone),
  }
}
