import { personInput, type PersonInput } from '#core/engine/commands/peopleSettings.ts'
import { plainPerson } from '#core/model/business.ts'
import { hoursDraft, hoursOf, type HoursDraft } from './businessDraft.ts'
import { orNull, sayFault, weekFaults } from './typed.ts'

/** Somebody of the team as their form holds them. */
export interface PersonDraft {
  name: string
  email: string
  role: PersonInput['role']
  isActive: boolean
  /** Whether they can be booked only at hours of their own. */
  hasHours: boolean
  hours: HoursDraft
  /** Empty: their own address. */
  replyTo: string
  signature: PersonInput['signature']
  away: AwayDraft[]
  handedToId: string | null
}

/** A time away as it is typed; null: the day is not said yet. */
export interface AwayDraft {
  from: string | null
  to: string | null
  standInId: string | null
}

const workingDay = [{ from: '08:00', to: '17:00' }]
const usualHours = {
  weekly: Array.from({ length: 7 }, (_, day) => (day < 5 ? workingDay : [])),
  holidays: 'closed' as const,
  closedDates: [],
}

export function draftOfPerson(person: PersonInput | null): PersonDraft {
  const { name = '', email = '', role = 'helper', isActive = true } = person ?? {}
  const { hours, replyTo, signature, away, handedToId } = person ?? plainPerson
  return {
    name,
    email,
    role,
    isActive,
    hasHours: hours !== null,
    hours: hoursDraft(hours ?? usualHours),
    replyTo: replyTo ?? '',
    signature: { ...signature },
    away: away.map((one) => ({ ...one })),
    handedToId,
  }
}

export type ReadPerson =
  | { readonly person: PersonInput; readonly faults: null }
  | { readonly person: null; readonly faults: Readonly<Record<string, string>> }

/** The person a form means, or what is wrong with which of its fields. */
export function readPersonDraft({ hasHours, hours, replyTo, ...plain }: PersonDraft): ReadPerson {
  const parsed = personInput.safeParse({
    ...plain,
    hours: hasHours ? hoursOf(hours) : null,
    replyTo: orNull(replyTo),
  })
  const faults = [
    ...(hasHours ? weekFaults('hours.weekly', hours.weekly) : []),
    ...(parsed.success
      ? []
      : parsed.error.issues.map(({ path, message }) => [path.join('.'), sayFault(message)] as const)),
  ]
  if (faults.length > 0 || !parsed.success) return { person: null, faults: Object.fromEntries(faults) }
  return { person: parsed.data, faults: null }
}
