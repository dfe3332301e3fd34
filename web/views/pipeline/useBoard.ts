import { isoDateOf } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { useAddress } from '../../parts/useAddress.ts'
import type { BoardFilters } from './rows.ts'

/** What the board is asked for. All of it stands in the address, so that it can be kept and handed on. */
export function useBoard() {
  const { zone, now } = useBusiness()
  const { search, set, change } = useAddress()
  const filters: BoardFilters = {
    words: search.get('words') ?? '',
    personId: search.get('person'),
    serviceId: search.get('service'),
    isLate: search.has('late'),
  }
  const isFiltered = ['words', 'person', 'service', 'late'].some((key) => search.has(key))
  return {
    filters,
    set,
    today: isoDateOf(dayAt(zone, now)),
    /** What stands beside the list: an enquiry by its id, a new one, or nothing. */
    beside: search.get('open'),
    /** For whom a new one is written down; null: not said. */
    clientId: search.get('client'),
    folds: new Set(search.getAll('folded')),
    fold: (stage: string) =>
      change((after) => {
        const folded = after.getAll('folded')
        const others = folded.filter((one) => one !== stage)
        after.delete('folded')
        for (const one of others.length < folded.length ? others : [...others, stage])
          after.append('folded', one)
      }),
    isFiltered,
    clear: () => set({ words: null, person: null, service: null, late: null }),
  }
}
export type Board = ReturnType<typeof useBoard>
