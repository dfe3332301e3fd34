import { Button, Group, SegmentedControl } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { useState } from 'react'
import { Link } from 'react-router'
import type { Candidate } from '#core/api/letterEndpoints.ts'
import { letterWith } from '#core/letters/content.ts'
import { fieldInfo } from '#core/letters/fieldList.ts'
import { mergeLetter, type MergedLetter, type MergeOutcome } from '#core/letters/merge.ts'
import { letterFor } from '#core/letters/variants.ts'
import type { LetterContent, Passage } from '#core/model/letter.ts'
import { useBusiness } from '../../app/business.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { download } from '../../parts/download.ts'
import { When } from '../../parts/When.tsx'
import { withPictures } from '../../parts/withPictures.ts'
import { CandidateSelect } from './CandidateSelect.tsx'
import type { Editing } from './editing.ts'
import styles from './letters.module.css'

type Width = 'phone' | 'desktop' | 'text'

/** The message as the client gets it, or null while nobody has been chosen. */
export function mergedFor(
  content: LetterContent,
  passages: readonly Passage[],
  { facts }: Pick<Editing, 'facts'>,
): MergeOutcome | null {
  if (!facts) return null
  return mergeLetter(
    letterFor(letterWith(content), { serviceId: facts.service?.id ?? null, client: facts.client }),
    passages,
    facts,
  )
}

function Message({ outcome, width }: { outcome: MergeOutcome; width: Width }) {
  if (!outcome.ok) {
    const names = outcome.missing.map((field) => fieldInfo(field).label).join(', ')
    return <p className={styles.held}>✕ It would be held for a person: {names} is missing.</p>
  }
  const { subject, preheader, html, text } = outcome.letter
  return (
    <>
      <p className={styles.inList}>
        <b>{subject}</b> <span>{preheader}</span>
      </p>
      {width === 'text' ? (
        <pre className={styles.plain}>{text}</pre>
      ) : (
        <iframe
          title="The message as the client gets it"
          className={width === 'phone' ? styles.phone : styles.desktop}
          sandbox="allow-same-origin"
          srcDoc={withPictures(html)}
        />
      )}
    </>
  )
}

interface PreviewProps {
  readonly letterId: string
  readonly content: LetterContent
  readonly outcome: MergeOutcome | null
  /** When it goes for them; null: not known. */
  readonly goesAt: number | null
  readonly candidates: readonly Candidate[]
  readonly chosen: Candidate | null
  readonly onChoose: (candidate: Candidate) => void
}

function TestCopy({ letterId, content, chosen }: Pick<PreviewProps, 'letterId' | 'content' | 'chosen'>) {
  const [sentTo, setSentTo] = useState<string | null>(null)
  const { overview } = useBusiness()
  const test = useTell('sendTestCopy', ({ address }) => setSentTo(address))
  const send = () => {
    if (!chosen) return
    const { clientId, bookingId } = chosen
    setSentTo(null)
    test.mutate({ parameters: { id: letterId }, body: { content, clientId, bookingId } })
  }
  return (
    <>
      <Button
        variant="default"
        size="compact-sm"
        loading={test.isPending}
        disabled={chosen === null}
        onClick={send}
      >
        Send me a test copy
      </Button>
      <Problem of={test.error} />
      {sentTo !== null && !test.error && (
        <p role="status" className={styles.sent}>
          A test copy went to {sentTo}.{' '}
          {overview.hasPostOffice && (
            <Link to={`/mailbox/${encodeURIComponent(sentTo)}`}>Open the made-up mailbox</Link>
          )}
        </p>
      )}
    </>
  )
}

/** The merged message as a file: the mail itself, or its HTML alone. */
function SaveMessage({ letterId, chosen, letter }: SaveMessageProps) {
  const query = new URLSearchParams({ clientId: chosen.clientId, bookingId: chosen.bookingId ?? '' })
  return (
    <p className={styles.changed}>
      Save the message:{' '}
      <a href={`/api/letters/${letterId}/message.eml?${query.toString()}`}>as a mail (.eml)</a>
      {' · '}
      <button
        type="button"
        className={styles.quietButton}
        onClick={() => download(`${letter.subject || 'message'}.html`, 'text/html', letter.html)}
      >
        as .html
      </button>
    </p>
  )
}

interface SaveMessageProps {
  readonly letterId: string
  readonly chosen: Candidate
  readonly letter: MergedLetter
}

const widths: readonly { readonly value: Width; readonly label: string }[] = [
  { value: 'desktop', label: 'Wide' },
  { value: 'phone', label: 'Phone' },
  { value: 'text', label: 'Plain text' },
]

/** The real merged message beside the editor, for any client or booking. */
export function Preview({ letterId, content, outcome, goesAt, candidates, chosen, onChoose }: PreviewProps) {
  const [width, setWidth] = useState<Width>('desktop')
  const hardest = candidates.filter(({ why }) => why !== '')
  const nextHardest = () => {
    const index = hardest.findIndex(({ clientId }) => clientId === chosen?.clientId)
    const next = hardest[(index + 1) % hardest.length]
    if (next) onChoose(next)
  }
  return (
    <div className={styles.preview}>
      <CandidateSelect label="Preview for" candidates={candidates} chosen={chosen} onChoose={onChoose} />
      <p className={styles.moment}>
        {goesAt === null ? (
          'As if it went now.'
        ) : (
          <>
            As it goes on <When at={goesAt} />.
          </>
        )}
      </p>
      <Group gap="xs">
        <Button
          {...looking}
          variant="default"
          size="compact-sm"
          disabled={hardest.length === 0}
          onClick={nextHardest}
        >
          Next hard case
        </Button>
        <SegmentedControl
          size="xs"
          aria-label="How it is shown"
          data={[...widths]}
          value={width}
          onChange={setWidth}
        />
        <TestCopy letterId={letterId} content={content} chosen={chosen} />
      </Group>
      {outcome ? <Message outcome={outcome} width={width} /> : <p>Choose a client to see the message.</p>}
      {outcome?.ok && chosen && <SaveMessage letterId={letterId} chosen={chosen} letter={outcome.letter} />}
    </div>
  )
}
