import { businessInput, type BusinessInput } from '#core/engine/commands/settingsCommands.ts'
import { orNull, readWeek, sayFault, typedWeek, weekFaults } from './typed.ts'

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
  senderName: string
  senderAddress: string
  replyTo: string
  /** Empty: there is no second sender. */
  sharedName: string
  sharedAddress: string
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

/** Hours as a form holds them. */
export const hoursDraft = ({ weekly, holidays, closedDates }: BusinessInput['sendingHours']): HoursDraft => ({
  weekly: typedWeek(weekly),
  holidays,
  closedDates: [...closedDates],
})

export function draftOfBusiness({
  sendingHours,
  officeHours,
  holidayRegion,
  replyTo,
  sharedMailbox,
  ...plain
}: BusinessInput): BusinessDraft {
  return {
    ...plain,
    ...holidayRegion,
    replyTo: replyTo ?? '',
    sharedName: sharedMailbox?.name ?? '',
    sharedAddress: sharedMailbox?.address ?? '',
    sendingHours: hoursDraft(sendingHours),
    officeHours: hoursDraft(officeHours),
  }
}

/** The hours a form means; what cannot be read is closed, and a fault of its own. */
export const hoursOf = ({ weekly, ...rest }: HoursDraft) => ({ ...rest, weekly: readWeek(weekly) })

export type ReadBusiness =
  | { readonly business: BusinessInput; readonly faults: null }
  | { readonly business: null; readonly faults: Readonly<Record<string, string>> }

/** Where in the form a fault of the model stands. */
const fieldOf = (path: readonly PropertyKey[]) =>
  path[0] === 'sharedMailbox' ? (path[1] === 'name' ? 'sharedName' : 'sharedAddress') : path.join('.')

/** The business a form means, or what is wrong with which of its fields. */
export function readBusinessDraft(draft: BusinessDraft): ReadBusiness {
  const { country, subdivision, sendingHours, officeHours, replyTo, sharedName, sharedAddress, ...plain } =
    draft
  const hasShared = sharedName.trim() !== '' || sharedAddress.trim() !== ''
  const parsed = businessInput.safeParse({
    ...plain,
    replyTo: orNull(replyTo),
    sharedMailbox: hasShared ? { name: sharedName, address: sharedAddress } : null,
    sendingHours: hoursOf(sendingHours),
    officeHours: hoursOf(officeHours),
    holidayRegion: { country, subdivision },
  })
  const typed = [
    ...weekFaults('sendingHours.weekly', sendingHours.weekly),
    ...weekFaults('officeHours.weekly', officeHours.weekly),
  ]
  if (parsed.success && typed.length === 0) return { business: parsed.data, faults: null }
  const issues = parsed.success ? [] : parsed.error.issues
  const faults = issues.map(({ path, message }): [string, string] => [fieldOf(path), sayFault(message)])
  return { business: null, faults: Object.fromEntries([...faults, ...typed]) }
}
