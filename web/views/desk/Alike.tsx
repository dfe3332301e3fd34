import { Button, Checkbox } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Announcement } from '#core/api/announcements.ts'
import type { DecideLine } from '#core/api/views.ts'
import { deskKeys } from '../../app/keys.ts'
import { call, type Answer, type Of } from '../../app/api.ts'
import { useAsk } from '../../app/queries.ts'
import { When } from '../../parts/When.tsx'
import { AlsoMoves } from './AlsoMoves.tsx'
import styles from './Desk.module.css'

interface AlikeProps {
  readonly send: DecideLine
  /** Whether a message has not just been decided here. */
  readonly isOpen: (send: DecideLine) => boolean
  readonly onApprove: (sends: readonly DecideLine[], foretold: Announcement | undefined) => void
}

/** Messages like the one shown, as one decision: only what differs, and single ones can be taken out. */
export function Alike(props: AlikeProps) {
  const { send, isOpen } = props
  const alike = useAsk('alike', { parameters: { id: send.id } })
  const others = (alike.data?.others ?? []).filter(({ line }) => isOpen(line))
  return others.length === 0 ? null : <Together {...props} others={others} />
}

type Other = Answer<Of<'alike'>>['others'][number]

function Together({ send, others, onApprove }: AlikeProps & { others: readonly Other[] }) {
  const [out, setOut] = useState<ReadonlySet<string>>(new Set())
  const inside = others.map(({ line }) => line).filter(({ id }) => !out.has(id))
  const together = [send, ...inside]
  const sendIds = together.map(({ id }) => id)
  const { data: foretold } = useQuery({
    queryKey: ['foretold', sendIds, 'release'],
    queryFn: () => call('askAboutSends', { body: { ids: sendIds, act: { act: 'release' } } }),
    gcTime: 0,
    staleTime: 0,
    retry: false,
  })
  const approve = () => onApprove(together, foretold)
  useHotkeys([[deskKeys.together, approve]])
  const toggle = (id: string) =>
    setOut((before) =>
      before.has(id) ? new Set([...before].filter((one) => one !== id)) : new Set([...before, id]),
    )
  return (
    <section className={styles.alike} aria-label="Alike messages">
      <h3>
        {others.length === 1 ? '1 more like it' : `${others.length} more like it`}, with only what differs
      </h3>
      <ul>
        {others.map(({ line, problem, differing }) => (
          <li key={line.id}>
            <Checkbox
              checked={!out.has(line.id)}
              onChange={() => toggle(line.id)}
              label={
                <>
                  <b>{line.clientName}</b> <When at={line.shownAt} />
                </>
              }
            />
            {problem !== null && <p className={styles.meaning}>✕ {problem}</p>}
            {differing.map((paragraph, index) => (
              <p key={index} className={styles.differing}>
                {paragraph}
              </p>
            ))}
            {problem === null && differing.length === 0 && (
              <p className={styles.differing}>word for word the same</p>
            )}
          </li>
        ))}
      </ul>
      <AlsoMoves sendIds={sendIds} actions={[['Together', foretold]]} />
      <Button
        variant="default"
        disabled={inside.length === 0}
        onClick={approve}
        aria-keyshortcuts={deskKeys.together}
      >
        Approve these {together.length} together&nbsp;<kbd className={styles.key}>{deskKeys.together}</kbd>
      </Button>
    </section>
  )
}
