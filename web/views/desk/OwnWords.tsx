import { Button } from '@mantine/core'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { SendPreview } from '#core/api/views.ts'
import type { OwnWords as Words } from '#core/model/letter.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Consequences } from '../../parts/Consequences.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { useConsidered } from '../../parts/useConsidered.ts'
import { BodyEditor } from '../letters/BodyEditor.tsx'
import { EditingProvider } from '../letters/editing.ts'
import { hydrated } from '../letters/hydrate.ts'
import { LineEditor } from '../letters/LineEditor.tsx'
import styles from './Desk.module.css'
import { unsavedWords } from './unsavedWords.ts'

interface OwnWordsProps {
  readonly id: string
  readonly letterId: string
  readonly clientId: string
  readonly bookingId: string | null
  readonly words: Words
  readonly preview: SendPreview
  readonly onClose: () => void
}

interface OneMessage {
  readonly id: string
  readonly revision: number
}

/** Other words for one copy, with what they do before they are kept. */
function useWriting({ id, revision }: OneMessage, own: Words, isChanged: boolean, onDone: () => void) {
  const write = useTell('writeOwnWords', onDone)
  const considered = useConsidered(
    'writeOwnWords',
    isChanged ? { parameters: { id }, body: { revision, ownWords: own } } : null,
  )
  const keep = (ownWords: Words | null, seen = {}) =>
    write.mutate(
      { parameters: { id }, body: { revision, ownWords, ...seen } },
      {
        onError: (problem) => {
          if (problem.details.code === 'changed meanwhile') considered.again()
        },
      },
    )
  return { isChanged, considered, write, keep }
}

interface WaysProps {
  readonly canKeep: boolean
  readonly isBusy: boolean
  readonly onKeep: () => void
  /** Null: this copy has the letter's words. */
  readonly onLetter: (() => void) | null
  readonly onClose: () => void
}

function Ways({ canKeep, isBusy, onKeep, onLetter, onClose }: WaysProps) {
  return (
    <div className={styles.acts}>
      <Button disabled={!canKeep} loading={isBusy} onClick={onKeep}>
        Save these words
      </Button>
      {onLetter && (
        <Button variant="default" disabled={isBusy} onClick={onLetter}>
          The letter’s words again
        </Button>
      )}
      <Button variant="subtle" onClick={onClose}>
        Cancel
      </Button>
    </div>
  )
}

/** The words as they are typed, kept until they are saved or given up. */
function useTyped(id: string, words: Words, onClose: () => void) {
  const [first] = useState(unsavedWords.get(id) ?? words)
  const [own, setOwn] = useState(first)
  const newest = useRef(own)
  return {
    first,
    own,
    change: (part: Partial<Words>) => {
      newest.current = { ...newest.current, ...part }
      unsavedWords.set(id, newest.current)
      setOwn(newest.current)
    },
    leave: () => {
      unsavedWords.delete(id)
      onClose()
    },
  }
}

/** Writes one copy in other words; the letter stays as it is, and the fields stay fields. */
export default function OwnWords({
  id,
  letterId,
  clientId,
  bookingId,
  words,
  preview,
  onClose,
}: OwnWordsProps) {
  const letter = useAsk('letter', { parameters: { id: letterId } })
  const facts = useAsk('letterFacts', {
    query: { clientId, letterId, ...(bookingId === null ? {} : { bookingId }) },
  })
  const { first, own, change, leave } = useTyped(id, words, onClose)
  const panel = useRef<HTMLFieldSetElement>(null)
  // Scrolling gives a promise in newer browsers, which is no clean-up.
  useEffect(() => {
    panel.current?.scrollIntoView({ block: 'nearest' })
  }, [])
  const editing = useMemo(
    () => ({
      language: preview.language,
      passages: letter.data?.passages ?? [],
      facts: facts.data ? hydrated(facts.data.facts) : null,
      showsValues: true,
    }),
    [preview.language, letter.data, facts.data],
  )
  const { isChanged, considered, write, keep } = useWriting(
    { id, revision: preview.revision },
    own,
    own !== words,
    leave,
  )
  return (
    <EditingProvider value={editing}>
      <fieldset ref={panel} className={styles.panel}>
        <legend>Words for this copy only</legend>
        <LineEditor label="Subject" initial={first.subject} onChange={(subject) => change({ subject })} />
        <BodyEditor initial={first.sections} onChange={(sections) => change({ sections })} />
        {isChanged && <Consequences considered={considered} />}
        <Problem of={write.error ?? considered.problem} />
        <Ways
          canKeep={!isChanged || considered.isCurrent}
          isBusy={write.isPending}
          onKeep={() => keep(own, considered.seen)}
          onLetter={preview.hasOwnWords ? () => keep(null) : null}
          onClose={leave}
        />
      </fieldset>
    </EditingProvider>
  )
}
