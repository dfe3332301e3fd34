import { writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import packed from 'moment-timezone/data/packed/latest.json' with { type: 'json' }
import { cutZones } from '#core/time/cutZones.ts'

/** What the pages and the server have of the zones of the world. */
export const zonesFrom1990 = () => `${JSON.stringify(cutZones(packed, Date.UTC(1990, 0, 1)), null, 1)}\n`

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  writeFileSync(new URL('../../core/time/zones.json', import.meta.url), zonesFrom1990())
}
