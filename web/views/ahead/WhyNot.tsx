import { SegmentedControl, Select } from '@mantine/core'
import { Link } from 'react-router'
import type { WhyNotLine } from '#core/api/sequenceEndpoints.ts'
import { ClientPicker } from '../../parts/ClientPicker.tsx'
import { useAsk } from '../../app/queries.ts'
import { StateMark } from '../../parts/StateMark.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './Ahead.module.css'
import type { Filters } from './useFilters.ts'

function Comes({ line }: { line: WhyNotLine }) {
  const { send } = line
  const at = send?.sentAt ?? send?.dueAt ?? null
  return (
    <span>
      {send?.sentAt == null ? 'It comes' : 'It went'}
      {at !== null && (
        <>
          : <When at={at} />
        </>
      )}
      .
    </span>
  )
}

function Changes({ line }: { line: WhyNotLine }) {
  const { words, comesThen, because, still } = line
  if (!because) return null
  if (words.length === 0) return <p className={styles.change}>{because.change}</p>
  return (
    <>
      <ol className={styles.change}>
        {words.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ol>
      <p className={table.quiet}>
        {comesThen
          ? 'Then it comes: the planner has tried it.'
          : `Even then it would not come. ${still?.sentence ?? ''} ${still?.change ?? ''}`}
      </p>
    </>
  )
}

function Line({ line }: { line: WhyNotLine }) {
  return (
    <li className={styles.answer}>
      <p>
        <b>{line.action}</b>{' '}
        <span className={table.quiet}>
          for {line.about} · <Link to={`/sequence/${line.sequenceId}`}>{line.sequenceName}</Link>
        </span>{' '}
        {line.send && <StateMark state={line.send.state} />}
      </p>
      {line.because ? (
        <p>
          <b>✕</b> {line.because.sentence}
        </p>
      ) : (
        <p>
          <Comes line={line} />
        </p>
      )}
      <Changes line={line} />
    </li>
  )
}

function Answers({ clientId, of }: { clientId: string; of: { sequenceId: string } | { letterId: string } }) {
  const asked = useAsk('whyNot', { parameters: { id: clientId }, query: of })
  if (asked.error) return <ErrorState problem={asked.error} onAgain={() => void asked.refetch()} />
  if (!asked.data) return <Waiting />
  if (asked.data.answers.length === 0) {
    return (
      <EmptyState title="No sequence sends this letter.">
        <p>A letter goes out by a step of a sequence that names it.</p>
      </EmptyState>
    )
  }
  return (
    <ul className={table.list}>
      {asked.data.answers.map((line) => (
        <Line key={`${line.sequenceId}${line.stepId}${line.about}`} line={line} />
      ))}
    </ul>
  )
}

/** Why does this client not get it? The first thing in the way, the fact, and the smallest change that would remedy it. */
export function WhyNot({ all }: { all: Filters }) {
  const { clientId, sequenceId, letterId } = all.filters
  const settings = useAsk('settings')
  const isLetter = all.whyNotOf === 'letter'
  const of = isLetter ? letterId && { letterId } : sequenceId && { sequenceId }
  const items = (isLetter ? settings.data?.letters : settings.data?.sequences) ?? []
  const named = (list: readonly { id: string; name: string }[]) =>
    list.map(({ id, name }) => ({ value: id, label: name }))
  return (
    <div className={table.sheet}>
      <div className={styles.asked}>
        <span>Why does</span>
        <ClientPicker
          aria-label="Client"
          placeholder="choose a client"
          value={clientId}
          onChange={(value) => all.choose('clientId', value)}
        />
        <span>not get the</span>
        <SegmentedControl
          aria-label="Letter or sequence"
          data={['letter', 'sequence']}
          value={isLetter ? 'letter' : 'sequence'}
          onChange={(value) => all.set({ of: value })}
        />
        <Select
          aria-label={isLetter ? 'Letter' : 'Sequence'}
          placeholder={isLetter ? 'choose a letter' : 'choose a sequence'}
          searchable
          data={named(items)}
          value={isLetter ? letterId : sequenceId}
          onChange={(value) => all.choose(isLetter ? 'letterId' : 'sequenceId', value)}
        />
        <span>?</span>
      </div>
      {clientId !== null && of ? (
        <Answers clientId={clientId} of={of} />
      ) : (
        <EmptyState title="Choose a client, and a letter or a sequence.">
          <p>The answer names the first thing in the way and what would change it.</p>
        </EmptyState>
      )}
    </div>
  )
}
