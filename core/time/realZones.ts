import packed from './zones.json' with { type: 'json' }
import { createZoneTable, type PackedZones } from './zones.ts'

/** The zones of the world from 1990 to the end of 2037, as the tz data has them; `./run zones` cuts them from it. */
export const packedZones: PackedZones = packed

export const realZones = createZoneTable(packed)
