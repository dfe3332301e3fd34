import { businessInput, type BusinessInput } from '#core/engine/commands/settingsCommands.ts'
import { hoursFault, hoursText, readHours } from '#core/time/hoursText.ts'

/** Hours as they are typed, Monday first, with holidays and closed days. */
export interface HoursDraft {
  weekly: string[]
  holidays: 'open' | 'closed'
  closedDates: string[]
}

/** The business as its form holds it. */
export interface BusinessDraft {
  name: string
  postalAddress: string
  phone: string
  sendingHours: HoursDraft
  officeHours: HoursDraft
  country: string
  subdivision: string | null
  settleMinutes: number | string
  moveThresholdMinutes: number | string
  promotionalPerDay: number | string
  promotionalGapHours: number | string
  leapDay: BusinessInput['leapDay']
}

const hoursDraft = ({ weekly, holidays, closedDates }: BusinessInput['sendingHours']): HoursDraft => ({
  weekly: weekly.map(hoursText),
  holidays,
  closedDates: [...closedDates],
})

export function draftOfBusiness({
  sendingHours,
  officeHours,
  holidayRegion,
  ...plain
}: BusinessInput): BusinessDraft {
  return {
    ...plain,
    ...holidayRegion,
    sendingHours: hoursDraft(sendingHours),
    officeHours: hoursDraft(officeHours),
  }
}

const hoursOf = ({ weekly, ...rest }: HoursDraft) => ({
  ...rest,
  weekly: weekly.map((day) => readHours(day) ?? []),
})

const hourFaults = (name: string, { weekly }: HoursDraft) =>
  weekly.flatMap((day, index): [string, string][] => {
    const fault = hoursFault(day)
    return fault === null ? [] : [[`${name}.weekly.${index}`, fault]]
  })

export type ReadBusiness =
  | { readonly business: BusinessInput; readonly faults: null }
  | { readonly business: null; readonly faults: Readonly<Record<string, string>> }

/** The business a form means, or what is wrong with which of its fields. */
export function readBusinessDraft(draft: BusinessDraft): ReadBusiness {
  const { country, subdivision, sendingHours, officeHours, ...plain } = draft
  const parsed = businessInput.safeParse({
    ...plain,
    sendingHours: hoursOf(sendingHours),
    officeHours: hoursOf(officeHours),
    holidayRegion: { country, subdivision },
  })
  const typed = [...hourFaults('sendingHours', sendingHours), ...hourFaults('officeHours', officeHours)]
  if (parsed.success && typed.length === 0) return { business: parsed.data, faults: null }
  const issues = parsed.success ? [] : parsed.error.issues
  const faults = issues.map(({ path, message }): [string, string] => [
    path.join('.'),
    message.startsWith('Invalid input: expected number') ? 'Give a number.' : message,
  ])
  return { business: null, faults: Object.fromEntries([...faults, ...typed]) }
}
