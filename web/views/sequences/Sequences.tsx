import { Button, Group, Menu } from '@mantine/core'
import { useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import type { SequenceLine } from '#core/api/sequenceEndpoints.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { startRule } from '#core/model/sequence.ts'
import { starterDesigns } from '#core/sequences/starterDesigns.ts'
import { call } from '../../app/api.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import styles from './sequences.module.css'
import { StateWord } from './StateWord.tsx'

const blank: SequenceDesign = {
  name: 'A new sequence',
  start: startRule.parse({ on: 'booking confirmed' }),
  steps: [],
  stops: [],
}

/** A line has room for so many steps. */
const mostSteps = 4

function Row({ line }: { line: SequenceLine }) {
  const { sequence, starts, does, running, waiting, sentThisMonth, surprises, hasDesign } = line
  return (
    <li>
      <Link className={`${table.row ?? ''} ${styles.row ?? ''}`} to={`/sequence/${sequence.id}`}>
        <span>
          <b>{sequence.name}</b>
          <br />
          <span className={table.quiet}>when {starts}</span>
        </span>
        <span>
          <StateWord state={sequence.state} />
          {hasDesign && sequence.state !== 'draft' && (
            <>
              <br />
              <span className={table.quiet}>changes not in effect</span>
            </>
          )}
        </span>
        <span className={styles.figure} data-label="running">
          {running}
        </span>
        <span className={styles.figure} data-label="waiting">
          {waiting > 0 ? `◐ ${waiting}` : '0'}
        </span>
        <span className={styles.figure} data-label="sent this month">
          {sentThisMonth}
        </span>
        <span className={surprises.length > 0 ? styles.surprise : table.quiet}>
          {surprises.length === 0 ? '✓ none' : `✕ ${surprises[0]?.sentence ?? ''}`}
          {surprises.length > 1 && ` (+${surprises.length - 1})`}
        </span>
        <span className={styles.does}>
          {does.length === 0 && 'no steps yet'}
          {does.slice(0, mostSteps).map(({ when, what }, index) => (
            <span key={`${String(index)}${what}`}>
              {index > 0 && ' → '}
              <b>{when}</b> {what}
            </span>
          ))}
          {does.length > mostSteps && ` → ${does.length - mostSteps} more`}
        </span>
      </Link>
    </li>
  )
}

function New() {
  const navigate = useNavigate()
  const file = useRef<HTMLInputElement>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const add = useTell('addSequence', ({ id }) => void navigate(`/sequence/${id}`))
  const example = useTell('addExample', ({ id }) => void navigate(`/sequence/${id}`))
  const begin = (design: SequenceDesign) => add.mutate({ body: { design } })
  const read = async (chosen: File) => {
    const answer = await call('readSequenceFile', { body: { text: await chosen.text() } })
    begin(answer.design)
  }
  return (
    <div>
      <Group gap="xs">
        <Button loading={add.isPending} onClick={() => begin(blank)}>
          New sequence
        </Button>
        <Menu position="bottom-end" width={420}>
          <Menu.Target>
            <Button variant="default" loading={example.isPending}>
              From an example ▾
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            {starterDesigns.map((starter) => (
              <Menu.Item key={starter.name} onClick={() => example.mutate({ body: { name: starter.name } })}>
                <b>{starter.name}</b>
                <br />
                <span className={table.quiet}>{starter.about}</span>
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
        <Button variant="default" onClick={() => file.current?.click()}>
          Open a file…
        </Button>
      </Group>
      <HiddenFileInput
        label="Sequence file"
        input={file}
        accept=".json"
        onFile={(chosen) => {
          setProblem(null)
          read(chosen).catch((fault: unknown) =>
            setProblem(fault instanceof Error ? fault.message : String(fault)),
          )
        }}
      />
      <Problem of={add.error ?? example.error} />
      {problem !== null && (
        <p role="alert" className={styles.surprise}>
          ✕ {problem}
        </p>
      )}
    </div>
  )
}

const order = ['live', 'paused', 'draft']

/** All sequences, as a timetable: what starts each, whether it is at work, and what would surprise. */
export default function Sequences() {
  const asked = useAsk('sequences')
  if (asked.error) return <ErrorState problem={asked.error} onAgain={() => void asked.refetch()} />
  const lines = (asked.data?.sequences ?? []).toSorted(
    (one, other) =>
      order.indexOf(one.sequence.state) - order.indexOf(other.sequence.state) ||
      one.sequence.name.localeCompare(other.sequence.name),
  )
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>Sequences</h1>
        <New />
      </div>
      <div className={table.sheet}>
        {!asked.data && <Waiting />}
        {asked.data && lines.length === 0 && (
          <EmptyState title="No sequences yet.">
            <p>Start one, or take an example: nothing is sent before it goes live.</p>
          </EmptyState>
        )}
        {lines.length > 0 && (
          <>
            <p className={`${table.row ?? ''} ${styles.row ?? ''} ${table.columns ?? ''}`} aria-hidden>
              <span>sequence: what starts it, what it does</span>
              <span>state</span>
              <span className={`${styles.figure ?? ''} ${styles.heading ?? ''}`}>running</span>
              <span className={`${styles.figure ?? ''} ${styles.heading ?? ''}`}>waiting</span>
              <span className={`${styles.figure ?? ''} ${styles.heading ?? ''}`}>sent this month</span>
              <span className={styles.heading}>warnings</span>
            </p>
            <ul className={table.list}>
              {lines.map((line) => (
                <Row key={line.sequence.id} line={line} />
              ))}
            </ul>
          </>
        )}
      </div>
    </div>
  )
}
