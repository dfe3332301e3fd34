import { Button } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { StepTrust } from '#core/api/sequenceEndpoints.ts'
import { ConsideredAct } from './ConsideredAct.tsx'
import table from './timetable.module.css'

const percent = (share: number) => `${Math.floor(share * 100)} %`

function counts({ needsApproval, trust }: StepTrust): string {
  const { asItWas, edited, skipped } = trust
  return needsApproval
    ? `approved as it was ${asItWas} ×, edited ${edited} ×, skipped ${skipped} ×`
    : `went by itself ${asItWas} ×, stopped by a person ${skipped} ×`
}

/** What was decided about a step so far, and what that suggests. Nothing is done by itself. */
export function TrustWords({ of, isShort }: { of: StepTrust; isShort?: boolean }) {
  const [isAsking, setAsking] = useState(false)
  const { trust, needsApproval, sequenceId, stepId } = of
  const isKnown = trust.asItWas + trust.edited + trust.skipped > 0
  return (
    <>
      <span className={table.quiet}>
        {isKnown
          ? `${counts(of)}: at least ${percent(trust.lower)} go unchanged`
          : 'nothing decided yet since it is what it is'}
      </span>{' '}
      {trust.suggests === 'letting go' && (
        <b>
          It could go by itself.{' '}
          {isShort && <Link to={`/sequence/${sequenceId}`}>Look at that in the sequence</Link>}
        </b>
      )}
      {trust.suggests === 'taking back' && <b>Many were stopped: it could wait for approval again.</b>}
      {!needsApproval && !isShort && !isAsking && (
        <Button size="compact-sm" variant="default" onClick={() => setAsking(true)}>
          Back to approval…
        </Button>
      )}
      {isAsking && (
        <ConsideredAct
          name="backToApproval"
          asked={{ parameters: { id: sequenceId }, body: { stepId } }}
          word="Back to approval"
          onClose={() => setAsking(false)}
        />
      )}
    </>
  )
}
