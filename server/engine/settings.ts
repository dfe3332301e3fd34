import type { Settings } from '#core/planning/slice.ts'
import { realZones } from '#core/time/realZones.ts'
import {
  readBusiness,
  readLetters,
  readPeople,
  readSendingOn,
  readSequences,
  readSequenceVersions,
  readServices,
} from '../db/settingsStore.ts'
import type { Statements } from '../db/statements.ts'
import { holidaysOf, type HolidayName } from './holidays.ts'

export interface SettingsSource {
  /** Null while the database has not been set up. */
  current(): Settings | null
  /** The settings of a database that has been set up; throws before that. */
  required(): Settings
  holidayName: HolidayName
  /** To be called after anything in the settings was written. */
  forget(): void
}

function readSettings(statements: Statements, holidayName: HolidayName): Settings | null {
  const business = readBusiness(statements)
  if (!business) return null
  return {
    business,
    people: readPeople(statements),
    services: readServices(statements),
    letters: readLetters(statements),
    sequences: readSequences(statements),
    sequenceVersions: readSequenceVersions(statements),
    zones: realZones,
    isHoliday: (day) => holidayName(day) !== null,
    isSendingOn: readSendingOn(statements),
  }
}

/** Settings are read once and kept until something in them is written. */
export function createSettingsSource(statements: Statements): SettingsSource {
  let kept: Settings | null = null
  let holidays: HolidayName | null = null
  const holidayName: HolidayName = (day) => {
    const region = kept?.business.holidayRegion ?? readBusiness(statements)?.holidayRegion
    holidays ??= region ? holidaysOf(region) : null
    return holidays?.(day) ?? null
  }
  const current = () => (kept ??= readSettings(statements, holidayName))
  return {
    current,
    required() {
      const settings = current()
      if (!settings) throw new Error('The business has not been set up yet')
      return settings
    },
    holidayName,
    forget() {
      kept = null
      holidays = null
    },
  }
}
