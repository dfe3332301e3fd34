import type { UsesOfService } from '#core/api/settingsEndpoints.ts'
import type { Application } from './application.ts'

const counted = (count: number, one: string, several: string): readonly string[] =>
  count === 0 ? [] : [count === 1 ? `1 ${one}` : `${count} ${several}`]

/** What depends on a service: bookings, enquiries, letters that say something else for it, sequences that name it. */
export function usesOfService({ store, settings, clock }: Application, id: string): UsesOfService {
  const row = store.statements.one('usesOfService', { id, now: clock.now() })
  const { letters, sequences, sequenceVersions, variations } = settings.required()
  const names = (one: unknown) => JSON.stringify(one).includes(`"${id}"`)
  const named = sequences.filter(
    (sequence) =>
      variations.some((one) => one.sequenceId === sequence.id && names(one)) ||
      sequenceVersions.some((one) => one.sequenceId === sequence.id && names(one)),
  )
  return {
    bookingsAhead: Number(row?.['bookingsAhead'] ?? 0),
    names: [
      ...counted(Number(row?.['bookings'] ?? 0), 'booking', 'bookings'),
      ...counted(Number(row?.['enquiries'] ?? 0), 'enquiry', 'enquiries'),
      ...letters.filter(names).map(({ name }) => `letter “${name}”`),
      ...named.map(({ name }) => `sequence “${name}”`),
    ],
  }
}
