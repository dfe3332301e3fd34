import { useSearchParams } from 'react-router'
import { isoDateOf } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import type { BoardFilters } from './rows.ts'

/** What the board is asked for. All of it stands in the address, so that it can be kept and handed on. */
export function useBoard() {
  const { zone, now } = useBusiness()
  const [search, setSearch] = useSearchParams()
  const filters: BoardFilters = {
    words: search.get('words') ?? '',
    personId: search.get('person'),
    serviceId: search.get('service'),
    isLate: search.has('late'),
  }
  const set = (changes: Readonly<Record<string, string | null>>) => {
    // From the address itself: of two quick choices the second would else be made on what stood before the first.
    const after = new URLSearchParams(window.location.search)
    for (const [key, value] of Object.entries(changes)) {
      if (value === null) after.delete(key)
      else after.set(key, value)
    }
    setSearch(after, { replace: true })
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
    fold: (stage: string) => {
      const after = new URLSearchParams(window.location.search)
      const others = after.getAll('folded').filter((one) => one !== stage)
      const isFolded = others.length < after.getAll('folded').length
      after.delete('folded')
      for (const one of isFolded ? others : [...others, stage]) after.append('folded', one)
      setSearch(after, { replace: true })
    },
    isFiltered,
    clear: () => set({ words: null, person: null, service: null, late: null }),
  }
}
export type Board = ReturnType<typeof useBoard>
