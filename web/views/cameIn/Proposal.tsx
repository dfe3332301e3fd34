import { Button } from '@mantine/core'
import { useState } from 'react'
import type { IncomingView } from '#core/api/incomingEndpoints.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import styles from './CameIn.module.css'

interface ProposalProps {
  readonly mail: IncomingView
  readonly onDone: () => void
}

/** What an answer seems to want, and the one act that would do it: shown with what follows, done at one press. */
export function ProposalOf({ mail, onDone }: ProposalProps) {
  const [isAsked, setAsked] = useState(false)
  const { read, id, revision } = mail
  if (!read) return null
  const { proposal, words, sentence } = read
  return (
    <section className={styles.proposal} aria-label="What it seems to want">
      <p>
        <b>{sentence}</b>
      </p>
      {proposal !== null &&
        words !== null &&
        (isAsked ? (
          <ConsideredAct
            name="actOnIncoming"
            asked={{ parameters: { id }, body: { revision, proposal } }}
            word={words}
            leave={proposal.act === 'cancel booking' ? 'Keep the booking' : 'Cancel'}
            onClose={() => setAsked(false)}
            onDone={onDone}
          />
        ) : (
          <Button variant="default" onClick={() => setAsked(true)}>
            {words}…
          </Button>
        ))}
    </section>
  )
}
