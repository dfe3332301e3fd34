import { isDeskMessageGroup, type DeskGroup, type DeskMessageGroup } from '#core/api/deskGroups.ts'
import type { TaskLine } from '#core/api/taskEndpoints.ts'
import type { DecideLine, SendLine } from '#core/api/views.ts'
import { useNavigate } from 'react-router'
import type { IncomingLine } from '#core/api/incomingEndpoints.ts'
import { useAsk, useParts, type Parts } from '../../app/queries.ts'

/** What there is of the group that is open: its entries as far as they were fetched. */
export type OpenGroup =
  | { readonly group: 'decide'; readonly items: readonly DecideLine[]; readonly parts: Parts<DecideLine> }
  | { readonly group: 'to-do'; readonly items: readonly TaskLine[]; readonly parts: Parts<TaskLine> }
  | { readonly group: DeskMessageGroup; readonly items: readonly SendLine[]; readonly parts: Parts<SendLine> }

/** Entries of the open group, part by part, without those just decided. */
export function useDeskLists(
  group: DeskGroup | null,
  isOpen: (item: { readonly id: string }) => boolean,
): OpenGroup | null {
  const messageGroup = isDeskMessageGroup(group) ? group : undefined
  const waiting = useParts('deskWaiting', {}, { isWanted: group === 'decide' })
  const tasks = useParts('deskTasks', {}, { isWanted: group === 'to-do' })
  const messages = useParts(
    'deskMessages',
    { parameters: { group: messageGroup ?? 'trouble' } },
    { isWanted: messageGroup !== undefined },
  )
  const of = <Line extends { readonly id: string }>({ lines }: Parts<Line>) => (lines ?? []).filter(isOpen)
  if (group === 'decide') return { group, items: of(waiting), parts: waiting }
  if (group === 'to-do') return { group, items: of(tasks), parts: tasks }
  return messageGroup ? { group: messageGroup, items: of(messages), parts: messages } : null
}

/** A message that waits and stands beyond what was fetched of the list; undefined: there is none, or it is in the list. */
export function useWaitingBeyond(list: OpenGroup | null, sendId: string | undefined): DecideLine | undefined {
  const isBeyond =
    list?.group === 'decide' &&
    sendId !== undefined &&
    list.parts.lines !== undefined &&
    !list.parts.lines.some(({ id }) => id === sendId)
  const alone = useAsk('deskWaiting', { query: { id: sendId ?? '' } }, { enabled: isBeyond })
  return isBeyond ? alone.data?.lines[0] : undefined
}

const noMails: readonly IncomingLine[] = []

/** Mail that came in and stands in a group; where one goes on when one is done with it. */
export function useCameIn(group: DeskGroup | null) {
  const navigate = useNavigate()
  const place = group === 'decide' || group === 'trouble' || group === 'to-do' ? group : null
  const parts = useParts(
    'deskIncoming',
    { parameters: { place: place ?? 'decide' } },
    { isWanted: place !== null },
  )
  const items = (place !== null && parts.lines) || noMails
  return {
    parts,
    items,
    next: (group: DeskGroup, id: string) => () => {
      const index = items.findIndex((one) => one.id === id)
      const following = items[index + 1] ?? items[index - 1]
      void navigate(following ? `/desk/${group}/${following.id}` : `/desk/${group}`, { replace: true })
    },
  }
}
