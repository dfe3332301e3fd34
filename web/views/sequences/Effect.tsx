import { Button, Checkbox, Group, Progress, Radio, TextInput } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { RolloutLine, RolloutView, SequenceView } from '#core/api/sequenceEndpoints.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { useBusiness } from '../../app/business.ts'
import { useTell } from '../../app/queries.ts'
import { Further, Recipient } from '../../parts/Consequences.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './sequences.module.css'
import { changeWords } from '../../parts/changeWords.ts'
import { useDifference, type Difference } from './useDifference.ts'

const shownAtFirst = 60
/** Up to so many are found by looking. */
const fewLines = 12

function Line({ line }: { line: RolloutLine }) {
  const { kind, clientId, clientName, letterName, beforeAt, afterAt, awaits, further, waits, reason } = line
  return (
    <li className={styles.changeLine}>
      <span className={styles.kind}>{changeWords[kind]}</span>
      <span>
        <b>{letterName}</b> <Link to={`/client/${clientId}`}>{clientName}</Link>{' '}
        <Recipient line={line.recipientName === clientName ? { ...line, recipientName: '' } : line} />
        {waits && <span className={styles.waits}> ◐ waits for you</span>}
        {kind === 'dropped' && reason !== null && <span className={table.quiet}> {reason}</span>}
      </span>
      <span className={table.quiet}>
        {beforeAt !== null && kind !== 'again' && kind !== 'changed text' && (
          <s>
            <When at={beforeAt} />
          </s>
        )}{' '}
        {afterAt !== null && <When at={afterAt} />}
        {awaits !== null && `no time yet. ${awaits}`}
        <Further moments={further} />
      </span>
    </li>
  )
}

function Lines({ result }: { result: RolloutView }) {
  const [search, setSearch] = useState('')
  const [most, setMost] = useState(shownAtFirst)
  const wanted = search.trim().toLowerCase()
  const found = result.lines.filter(({ clientName, letterName, kind }) =>
    `${clientName} ${letterName} ${changeWords[kind]}`.toLowerCase().includes(wanted),
  )
  return (
    <>
      {result.lines.length > fewLines && (
        <TextInput
          label="Find a client or a letter among them"
          value={search}
          onChange={(event) => setSearch(event.currentTarget.value)}
        />
      )}
      <ul className={styles.changeLines} aria-label="Message by message">
        {found.slice(0, most).map((line) => (
          <Line key={`${line.kind}${line.name}${line.clientId}`} line={line} />
        ))}
      </ul>
      {found.length > most && (
        <Button variant="default" onClick={() => setMost(most + 200)}>
          {found.length - most} more…
        </Button>
      )}
      {result.isCut && (
        <p className={styles.note}>Only the first {result.lines.length} are listed; all are counted.</p>
      )}
    </>
  )
}

function Counts({ result }: { result: RolloutView }) {
  const { counts, clients, lookedAt } = result
  if (counts.length === 0) {
    return (
      <p>
        No message that is planned now is added, moved, reworded or dropped
        {lookedAt > 0 && `; ${lookedAt} ${lookedAt === 1 ? 'client was' : 'clients were'} looked at`}.
      </p>
    )
  }
  return (
    <>
      <p>
        For {clients} {clients === 1 ? 'client' : 'clients'}:
      </p>
      <ul className={styles.totals}>
        {counts.map(({ kind, action, count, further }) => (
          <li key={`${kind}${action}`}>
            <b>{count}</b> {changeWords[kind]}: {action}
            {further > 0 && `, and up to ${further} more by its repeats`}
          </li>
        ))}
      </ul>
    </>
  )
}

function Outcome({ difference }: { difference: Difference }) {
  const { done, total, result, problem } = difference
  if (problem !== null) {
    return (
      <p role="alert" className={styles.surprise}>
        ✕ {problem}
      </p>
    )
  }
  if (!result) {
    return (
      <div role="status" aria-label="Working it out">
        <p>
          Working it out: {done} of {total === 0 ? '…' : total} clients
        </p>
        <Progress value={total === 0 ? 5 : (100 * done) / total} aria-label="How far it is" />
      </div>
    )
  }
  return (
    <>
      <Counts result={result} />
      {result.lines.length > 0 && <Lines result={result} />}
    </>
  )
}

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
  const difference = useDifference(sequence.id, design, rollout, round)
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
