import { exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { hourMs } from '#core/time/calendar.ts'
import { readBooking } from '../db/clientStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { addBookedClient, addLive } from './seed.ts'

/** A client who was asked something an hour ago and will be asked again in a day, unless they answer; their id. */
export async function addAskedClient({ application, commands, pump }: RunningApplication): Promise<string> {
  const once = exampleStep({
    id: 'st_first',
    purpose: 'follow-up',
    letterId: 'lt_starter-confirmation',
    timing: { kind: 'at once' },
  })
  const later = { kind: 'after previous', amount: 1, unit: 'days', atTime: null } as const
  const steps = [once, exampleStep({ ...once, id: 'st_later', timing: later })]
  addLive(application, 'sq_ask', steps, { on: 'booking confirmed' }, [{ on: 'answered' }])
  const bookingId = addBookedClient(application, commands, 'enno', 'enno@brackwater.example')
  await pump.advance(application.clock.now() + hourMs)
  return readBooking(application.store.statements, bookingId)?.clientId ?? ''
}
