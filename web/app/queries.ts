import {
  keepPreviousData,
  QueryClient,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
  type InfiniteData,
  type QueryKey,
  type UseQueryOptions,
} from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { doors } from '#core/api/doors.ts'
import {
  call,
  newCommandId,
  type Answer,
  ApiProblem,
  type CallArguments,
  type EndpointName,
  type Of,
} from './api.ts'

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: { retry: (count, fault) => !(fault instanceof ApiProblem) && count < 2, staleTime: 30_000 },
  },
})

type Options<Name extends EndpointName> = Omit<
  UseQueryOptions<Answer<Of<Name>>, ApiProblem>,
  'queryKey' | 'queryFn'
>

/** How an endpoint is asked, for several at once. */
export const askOptions = <Name extends EndpointName>(name: Name, args: CallArguments<Of<Name>> = {}) => ({
  queryKey: [name, args],
  queryFn: () => call(name, args),
})

const signedInKey = 'vorfreude.signed-in'

/** Notes whether somebody is signed in in this browser: only then is there a frame to ask for at once. */
export function rememberSignedIn(isSignedIn: boolean) {
  if (isSignedIn) localStorage.setItem(signedInKey, 'yes')
  else localStorage.removeItem(signedInKey)
}

export const signingOut = ['signOut'] as const

/** Longer than this nobody waits for an answer of which nothing comes, in milliseconds. */
const mostWaitMs = 5_000

/** Ends when nothing that was asked for is on its way any more. */
export async function nothingAsked(): Promise<void> {
  const until = Date.now() + mostWaitMs
  while (queryClient.isFetching() > 0 && Date.now() < until) {
    await new Promise((resolve) => setTimeout(resolve, 20))
  }
}

/** Asks at once for what every page begins with. */
export function fetchFrame() {
  // What goes wrong is met again, and said, where it is shown.
  queryClient.query(askOptions('session')).catch(() => undefined)
  if (localStorage.getItem(signedInKey) === null) return
  queryClient.query(askOptions('overview')).catch(() => undefined)
}

/** Asks an endpoint and keeps the answer fresh while the page is open. */
export function useAsk<Name extends EndpointName>(
  name: Name,
  args: CallArguments<Of<Name>> = {},
  options: Options<Name> = {},
) {
  return useQuery<Answer<Of<Name>>, ApiProblem>({
    ...askOptions(name, args),
    ...options,
  })
}

/** Endpoints that give a list part by part. */
type PartName = {
  [Name in EndpointName]: Answer<Of<Name>> extends { lines: readonly unknown[]; next: string | null }
    ? Name
    : never
}[EndpointName]
type LineOf<Name extends PartName> = Answer<Of<Name>>['lines'][number]

/** A list as far as it has been fetched. */
export interface Parts<Line, Part = unknown> {
  /** Undefined: nothing has come yet. */
  readonly lines: readonly Line[] | undefined
  readonly first: Part | undefined
  readonly problem: ApiProblem | null
  readonly hasMore: boolean
  readonly isFetching: boolean
  readonly more: () => void
  readonly again: () => void
}

interface PartsOptions {
  /** False: it is not asked for. */
  readonly isWanted?: boolean
  /** What was there for other words stands until what is asked for has come. */
  readonly keepsLast?: boolean
}

/** Asks for a list part by part; the parts that were fetched stay fresh while the page is open. */
export function useParts<Name extends PartName>(
  name: Name,
  args: CallArguments<Of<Name>> = {},
  { isWanted = true, keepsLast = false }: PartsOptions = {},
): Parts<LineOf<Name>, Answer<Of<Name>>> {
  const asked = useInfiniteQuery<
    Answer<Of<Name>>,
    ApiProblem,
    InfiniteData<Answer<Of<Name>>>,
    QueryKey,
    string | null
  >({
    queryKey: [name, args, 'parts'],
    queryFn: ({ pageParam }) => {
      const after = pageParam === null ? {} : { after: pageParam }
      return call(name, { ...args, query: { ...args.query, ...after } } as CallArguments<Of<Name>>)
    },
    initialPageParam: null,
    getNextPageParam: ({ next }) => next,
    ...(keepsLast ? { placeholderData: keepPreviousData } : {}),
    enabled: isWanted,
  })
  const { data, error, hasNextPage, isFetching, fetchNextPage, refetch } = asked
  return {
    lines: data?.pages.flatMap((part): readonly LineOf<Name>[] => part.lines),
    first: data?.pages[0],
    problem: error,
    hasMore: hasNextPage,
    isFetching,
    more: () => void fetchNextPage({ cancelRefetch: false }),
    again: () => void refetch(),
  }
}

type WithoutCommandId<Body> = Body extends { commandId: string } ? Omit<Body, 'commandId'> : Body

export interface Telling<Name extends EndpointName> {
  readonly parameters?: CallArguments<Of<Name>>['parameters']
  readonly body: WithoutCommandId<NonNullable<CallArguments<Of<Name>>['body']>>
}

/**
 * Carries out a command. The command id stays the same until the command has been answered, so a double click
 * or a second try after a lost connection does nothing twice.
 */
export function useTell<Name extends EndpointName>(name: Name, onDone?: (answer: Answer<Of<Name>>) => void) {
  const commandId = useRef(newCommandId())
  const client = useQueryClient()
  return useMutation<Answer<Of<Name>>, ApiProblem, Telling<Name>>({
    mutationFn: ({ parameters, body }) =>
      call(name, {
        ...(parameters ? { parameters } : {}),
        body: doors[name].isCommand ? { ...body, commandId: commandId.current } : body,
      } as CallArguments<Of<Name>>),
    onSuccess: async (answer) => {
      commandId.current = newCommandId()
      await client.invalidateQueries()
      onDone?.(answer)
    },
    onError: (problem) => {
      if (problem.details.status !== 0) commandId.current = newCommandId()
    },
  })
}

const deskNames = [
  'desk',
  'deskWaiting',
  'deskMessages',
  'deskTasks',
  'deskIncoming',
  'enquiriesDue',
] as const

/**
 * What was foretold of an act, asked anew like an endpoint. Time is no part of its key: what stood there a moment ago is
 * pressed meanwhile, and the server refuses it where it has become something else.
 */
type Foretold = 'foretold' | 'consequences'

const namesOf: Readonly<Record<string, readonly (EndpointName | Foretold)[]>> = {
  clock: [
    'overview',
    'ribbon',
    ...deskNames,
    'load',
    'timetable',
    'previewSequence',
    'askAboutSends',
    'foretold',
    'consequences',
  ],
  sending: ['safety', 'overview', 'ribbon', ...deskNames, 'waysOut', 'beginning'],
  incoming: ['overview', ...deskNames, 'incoming', 'incomingOfClient', 'historyOfClient', 'sendPreview'],
  tasks: ['overview', ...deskNames, 'client', 'historyOfClient'],
  sends: [
    'pipeline',
    'enquiry',
    'enquiriesOfClient',
    'webCalls',
    'overview',
    'ribbon',
    ...deskNames,
    'forecast',
    'sends',
    'foretold',
    'sendDays',
    'load',
    'send',
    'sendPreview',
    'alike',
    'trust',
    'whyNot',
    'booking',
    'client',
    'clients',
    'sendsOfClient',
    'historyOfClient',
  ],
  enquiries: [
    'movesOffered',
    'overview',
    ...deskNames,
    'pipeline',
    'endedEnquiries',
    'enquiry',
    'enquiriesOfClient',
    'historyOfClient',
    'foretold',
  ],
  bookings: [
    'movesOffered',
    'enquiry',
    'bookings',
    'timetable',
    'booking',
    'client',
    'clients',
    'bookingsOfClient',
    'historyOfClient',
    'foretold',
  ],
  clients: [
    'movesOffered',
    'pipeline',
    'enquiry',
    'client',
    'clientImports',
    'historyOfClient',
    'clients',
    'booking',
    'bookings',
    'timetable',
    'clientName',
    'sends',
    ...deskNames,
    'sendPreview',
    'whyNot',
    'foretold',
  ],
  sessions: ['session', 'sessions', 'secondFactor', 'waysIn', 'apiKeys'],
  mail: ['mailbox'],
  backups: ['backups', ...deskNames],
  mailboxes: ['waysBack'],
  letters: ['letters', 'letter', 'settings', 'sequences', 'beginning'],
  settings: [
    'document',
    'form',
    'move',
    'movesOffered',
    'pipeline',
    'enquiry',
    'settings',
    'businessSettings',
    'calendarFeeds',
    'waysIn',
    'waysOut',
    'beginning',
    'overview',
    'ribbon',
    'booking',
    'timetable',
  ],
  sequences: [
    'move',
    'movesOffered',
    'pipeline',
    'enquiry',
    'booking',
    'sequences',
    'sequence',
    'settings',
    'beginning',
    'client',
    'previewSequence',
    'trust',
    'whyNot',
  ],
}

/** Changes that come this close together are fetched once, in milliseconds. */
const togetherMs = 150

/** Listens to the server and fetches again what has changed. After a lost connection everything is fetched again. */
export function useLiveChanges(isSignedIn: boolean) {
  const client = useQueryClient()
  useEffect(() => {
    if (!isSignedIn) return
    const source = new EventSource('/api/changes')
    let wasLost = false
    const changed = new Set<string>()
    let timer: ReturnType<typeof setTimeout> | null = null
    const fetchChanged = () => {
      timer = null
      const names = new Set<string>([...changed].flatMap((topic) => namesOf[topic] ?? []))
      changed.clear()
      void client.invalidateQueries({ predicate: ({ queryKey }) => names.has(String(queryKey[0])) })
    }
    source.addEventListener('changed', (event: MessageEvent<string>) => {
      const topics = JSON.parse(event.data) as string[]
      topics.forEach((topic) => changed.add(topic))
      timer ??= setTimeout(fetchChanged, togetherMs)
    })
    source.addEventListener('open', () => {
      if (wasLost) void client.invalidateQueries()
      wasLost = false
    })
    source.addEventListener('error', () => {
      wasLost = true
    })
    return () => {
      if (timer !== null) clearTimeout(timer)
      source.close()
    }
  }, [client, isSignedIn])
}
