import type { BundleOutside } from '#core/rehearsal/bundleSettings.ts'
import { realZones } from '#core/time/realZones.ts'
import { holidaysOf } from '../engine/holidays.ts'

/** What a bundle needs that is not in it: zones and public holidays. */
export const outside: BundleOutside = {
  zones: realZones,
  holidaysOf: (country, subdivision) => {
    const nameOf = holidaysOf({ country, subdivision })
    return (day) => nameOf(day) !== null
  },
}
