import {
  aheadStates,
  leftOutStates,
  sendStates,
  troubleStates,
  type SendState,
} from '#core/model/sendState.ts'
import { isoDateOf } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { useAddress } from '../../parts/useAddress.ts'

/** State filters as people think of them. */
export const stateFilters: Readonly<Record<string, { word: string; states: readonly SendState[] }>> = {
  planned: { word: 'on their way', states: aheadStates },
  waiting: { word: 'waiting for you', states: ['waiting'] },
  sent: { word: 'sent', states: ['sent'] },
  trouble: { word: 'in trouble', states: troubleStates },
  'not-sent': { word: 'dropped, cancelled or skipped', states: leftOutStates },
  all: { word: 'all', states: sendStates },
}

const choices = {
  clientId: 'client',
  serviceId: 'service',
  sequenceId: 'sequence',
  letterId: 'letter',
} as const
export type Choice = keyof typeof choices

/** What the list is asked for. All of it stands in the address, so that it can be kept and handed on. */
export function useFilters() {
  const { zone, now } = useBusiness()
  const { search, set, clear } = useAddress()
  const today = dayAt(zone, now)
  const of = (choice: Choice) => search.get(choices[choice])
  const filters = {
    from: search.get('from') ?? isoDateOf(today),
    to: search.get('to') ?? isoDateOf(today + 21),
    state: search.get('state') ?? (search.get('from') === null ? 'planned' : 'all'),
    clientId: of('clientId'),
    serviceId: of('serviceId'),
    sequenceId: of('sequenceId'),
    letterId: of('letterId'),
  }
  const query = {
    from: filters.from,
    to: filters.to,
    states: (stateFilters[filters.state]?.states ?? sendStates).join(','),
    ...(filters.clientId === null ? {} : { clientId: filters.clientId }),
    ...(filters.serviceId === null ? {} : { serviceId: filters.serviceId }),
    ...(filters.sequenceId === null ? {} : { sequenceId: filters.sequenceId }),
    ...(filters.letterId === null ? {} : { letterId: filters.letterId }),
  }
  return {
    filters,
    query,
    view: search.get('view') ?? 'list',
    /** What “why not?” asks about. */
    whyNotOf: search.get('of') ?? 'letter',
    month: search.get('month') ?? isoDateOf(today).slice(0, 7),
    set,
    choose: (choice: Choice, value: string | null) => set({ [choices[choice]]: value }),
    isFiltered: [...search.keys()].some((key) => key !== 'view'),
    clear,
  }
}
export type Filters = ReturnType<typeof useFilters>
/** The list's choice, as the server takes it. */
export type SendsQuery = Filters['query']
