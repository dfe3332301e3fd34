import { Button, Checkbox, Group, Radio } from '@mantine/core'
import { useState } from 'react'
import type { SequenceView } from '#core/api/sequenceEndpoints.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { useBusiness } from '../../app/business.ts'
import { useTell } from '../../app/queries.ts'
import { call } from '../../app/api.ts'
import { Outcome } from '../../parts/Difference.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { useDifference } from '../../parts/useDifference.ts'
import styles from './sequences.module.css'

interface EffectProps {
  readonly view: SequenceView
  readonly design: SequenceDesign
  readonly onClose: () => void
  readonly onDone: (sends: number) => void
}

function wordsFor({ sequence }: SequenceView) {
  return sequence.state === 'draft'
    ? { title: 'Let it go live', button: 'Let it go live', leave: 'Keep it a draft' }
    : { title: 'Put the changes into effect', button: 'Put them into effect', leave: 'Cancel' }
}

interface PressProps {
  readonly words: ReturnType<typeof wordsFor>
  readonly result: ReturnType<typeof useDifference>['result']
  readonly isPending: boolean
  readonly onPress: () => void
}

function Press({ words, result, isPending, onPress }: PressProps) {
  const { isOwner } = useBusiness()
  if (!isOwner) return <p>Only the owner puts it into effect. It stays saved: ask them to look at it.</p>
  return (
    <Button onClick={onPress} loading={isPending} disabled={!result}>
      {words.button}
      {result && result.lines.length > 0 && ` for ${result.clients}, and those to come`}
    </Button>
  )
}

/**
 * Going live, or changing what is live: who is concerned and what becomes of their messages stands here before anything
 * is done. Nothing has happened until the button is pressed.
 */
export function Effect({ view, design, onClose, onDone }: EffectProps) {
  const { sequence, running } = view
  const isDraft = sequence.state === 'draft'
  const [movesRunning, setMovesRunning] = useState(false)
  const [includesExisting, setIncludesExisting] = useState(false)
  const [round, setRound] = useState(0)
  const rollout = { movesRunning, includesExisting }
  const difference = useDifference(
    () => call('startDifference', { parameters: { id: sequence.id }, body: { design, rollout } }),
    JSON.stringify({ id: sequence.id, design, rollout, round }),
  )
  const put = useTell('putIntoEffect', ({ sends }) => onDone(sends))
  const words = wordsFor(view)
  const { result } = difference
  const press = () => {
    if (!result) return
    const { announcementId } = result
    put.mutate(
      { parameters: { id: sequence.id }, body: { design, rollout, announcementId } },
      {
        onError: ({ details }) => {
          // The world has changed: what it would do now is shown in its place.
          if (details.code === 'changed meanwhile') setRound(round + 1)
        },
      },
    )
  }
  return (
    <section className={`${table.sheet ?? ''} ${styles.effect ?? ''}`} aria-label={words.title}>
      <h2>
        {words.title} <small>Nothing has happened yet.</small>
      </h2>
      {!isDraft && (
        <Radio.Group
          label="It counts for"
          value={movesRunning ? 'running' : 'new'}
          onChange={(value) => setMovesRunning(value === 'running')}
        >
          <Group>
            <Radio value="new" label="new ones only" />
            <Radio value="running" label={`running ones too (${running})`} />
          </Group>
        </Radio.Group>
      )}
      <Checkbox
        label="Also for those who stand already where it would have started; each is listed below first"
        checked={includesExisting}
        onChange={(event) => setIncludesExisting(event.currentTarget.checked)}
      />
      <Outcome difference={difference} />
      <Problem of={put.error} />
      <Group>
        <Press words={words} result={result} isPending={put.isPending} onPress={press} />
        <Button variant="default" onClick={onClose}>
          {words.leave}
        </Button>
      </Group>
    </section>
  )
}
