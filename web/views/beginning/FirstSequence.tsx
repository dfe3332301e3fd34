import { Button } from '@mantine/core'
import { Link } from 'react-router'
import type { LetterView } from '#core/api/letterEndpoints.ts'
import type { SequenceLine } from '#core/api/sequenceEndpoints.ts'
import { contentOf } from '#core/letters/content.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { linesOf } from '../letters/plainLines.ts'
import { Effect } from '../sequences/Effect.tsx'
import { inEffect } from '../sequences/useDesign.ts'
import form from '../setup/setup.module.css'
import styles from './Beginning.module.css'

interface Does {
  readonly when: string
  readonly what: string
}

/** A letter as it is written, to be read and published. */
function Reading({ view, does }: { view: LetterView; does: Does | undefined }) {
  const { letter, draft, passages } = view
  const content = draft?.content ?? contentOf(letter)
  const publish = useTell('publishLetter')
  const [subject, ...lines] = linesOf(content, { passages, services: [] })
  return (
    <article className={styles.letter} aria-label={letter.name}>
      <h3>
        {letter.name} {does && <small className={table.quiet}>{does.when}</small>}
      </h3>
      <p>
        <b>{subject}</b>
      </p>
      {lines.map((line, index) => (
        <p key={index}>{line}</p>
      ))}
      <Problem of={publish.error} />
      <div className={styles.read}>
        {letter.isStarter ? (
          <Button
            size="compact-md"
            loading={publish.isPending}
            onClick={() =>
              publish.mutate({
                parameters: { id: letter.id },
                body: { version: letter.version, revision: draft?.revision ?? 0, content },
              })
            }
          >
            I have read it: publish it
          </Button>
        ) : (
          <span role="status">✓ published</span>
        )}
        <Link to={`/letter/${letter.id}`}>Change its words</Link>
      </div>
    </article>
  )
}

function LetterToRead({ letterId, does }: { letterId: string; does: Does | undefined }) {
  const { data, error, refetch } = useAsk('letter', { parameters: { id: letterId } })
  if (error) return <ErrorState problem={error} onAgain={() => void refetch()} />
  return data ? <Reading view={data} does={does} /> : <Waiting />
}

/** A draft: its letters to be read, then what it does when it goes live. */
function Draft({ line, onLater }: { line: SequenceLine; onLater: () => void }) {
  const { id, name } = line.sequence
  const { data, error, refetch } = useAsk('sequence', { parameters: { id } })
  if (error) return <ErrorState problem={error} onAgain={() => void refetch()} />
  if (!data) return <Waiting />
  const design = inEffect(data)
  const letterIds = design.steps.map((step) => (step.kind === 'mail' ? step.letterId : null))
  const waits = design.steps.some((step) => 'needsApproval' in step && step.needsApproval)
  return (
    <>
      <section className={table.sheet} aria-label={name}>
        <h2 className={table.group}>{name}</h2>
        <div className={form.form}>
          <p>
            It starts when {line.starts}.{' '}
            {waits && 'Each of its messages waits on the Desk until you have looked at it. '}
            <Link to={`/sequence/${id}`}>Change what it does</Link>
          </p>
        </div>
        {letterIds.map(
          (letterId, index) =>
            letterId !== null && <LetterToRead key={letterId} letterId={letterId} does={line.does[index]} />,
        )}
      </section>
      <Effect view={data} design={design} onClose={onLater} onDone={() => undefined} />
    </>
  )
}

/** One ready-made sequence, read and let live; each of its messages waits for a look. */
export function FirstSequence({ onDone }: { onDone: () => void }) {
  const { data, error, refetch } = useAsk('sequences')
  if (error) return <ErrorState problem={error} onAgain={() => void refetch()} />
  if (!data) return <Waiting />
  const live = data.sequences.filter(({ sequence }) => sequence.state === 'live')
  const draft = data.sequences.find(({ sequence }) => sequence.state === 'draft')
  if (live.length > 0) {
    return (
      <section className={table.sheet} aria-label="What is live">
        <h2 className={table.group}>What is live</h2>
        <div className={form.form}>
          {live.map(({ sequence, starts }) => (
            <p key={sequence.id}>
              ● <Link to={`/sequence/${sequence.id}`}>{sequence.name}</Link> starts when {starts}.
            </p>
          ))}
          <p>
            <Link to="/sequences">All sequences, and examples of others</Link>
          </p>
        </div>
      </section>
    )
  }
  if (draft) return <Draft line={draft} onLater={onDone} />
  return (
    <EmptyState title="There is no sequence yet.">
      <p>
        <Link to="/sequences">Take an example, or begin one</Link>
      </p>
    </EmptyState>
  )
}
