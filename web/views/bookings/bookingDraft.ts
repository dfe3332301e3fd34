import { makeBookingInput, type MakeBookingInput } from '#core/engine/commands/bookingCommands.ts'
import { localTimes, type Times } from '../../parts/times.ts'

/** A booking as the form holds it. */
export interface BookingDraft {
  readonly clientId: string | null
  readonly serviceId: string
  readonly times: Times
  readonly partySize: number | string
  readonly status: 'requested' | 'confirmed'
  readonly personInChargeId: string | null
}

export type Errors = Readonly<Record<string, string>>

/** What is still wrong with a draft, by field, or the booking it asks for. */
export function readDraft(draft: BookingDraft): { input: MakeBookingInput } | { errors: Errors } {
  const times = localTimes(draft.times)
  const errors: Record<string, string> = {}
  if (draft.clientId === null) errors['clientId'] = 'Choose the client.'
  if (times === null) errors['startLocal'] = 'Give a date, a start and an end.'
  const parsed = makeBookingInput.safeParse({
    clientId: draft.clientId ?? '',
    serviceId: draft.serviceId,
    startLocal: times?.startLocal ?? '',
    endLocal: times?.endLocal ?? '',
    partySize: draft.partySize,
    status: draft.status,
    personInChargeId: draft.personInChargeId,
  })
  if (parsed.success) return { input: parsed.data }
  for (const { path, message } of parsed.error.issues) errors[String(path[0])] ??= message
  return { errors }
}
