import packed from 'moment-timezone/data/packed/latest.json' with { type: 'json' }
import { createZoneTable } from './zones.ts'

/** The zones of the world as the shipped tz data has them, up to the end of 2037. */
export const realZones = createZoneTable(packed)
