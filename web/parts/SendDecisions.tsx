import { Button } from '@mantine/core'
import { useState } from 'react'
import type { SendLine } from '#core/api/views.ts'
import type { SendDecision } from '#core/engine/commands/sendCommands.ts'
import type { SendState } from '#core/model/sendState.ts'
import { ApiProblem, consider } from '../app/api.ts'
import { useTell } from '../app/queries.ts'
import { ConsideredAct } from './ConsideredAct.tsx'
import { othersThan } from './others.ts'
import { Problem } from './Problem.tsx'
import table from './timetable.module.css'

/** What a person can decide about a message where it is looked at. */
const possible: Readonly<Record<SendState, readonly SendDecision[]>> = {
  expected: [],
  waiting: ['approve', 'send now', 'skip'],
  approved: ['hold back', 'skip'],
  ready: ['hold back', 'skip'],
  sending: [],
  sent: [],
  skipped: [],
  dropped: [],
  cancelled: [],
  stale: [],
  missed: ['send now', 'skip'],
  blocked: ['send now', 'skip'],
  failed: ['send now', 'skip'],
  bounced: [],
  'in doubt': ['it went', 'send now', 'skip'],
}

const words: Readonly<Record<SendDecision, string>> = {
  approve: 'Approve it',
  'send now': 'Send it now',
  skip: 'Skip it',
  'it went': 'It was delivered; don’t send again',
  'hold back': 'Hold it for approval',
  called: 'Called instead',
}

/** A decision is carried out at one press; where it moves other messages those are shown first. */
function useDeciding(send: SendLine) {
  const tell = useTell('decideSend')
  const [shown, setShown] = useState<SendDecision | null>(null)
  const [isAsking, setAsking] = useState(false)
  const [problem, setProblem] = useState<ApiProblem | null>(null)
  const argsOf = (decision: SendDecision) => ({
    parameters: { id: send.id },
    body: { decision, revision: send.revision },
  })
  const decide = async (decision: SendDecision) => {
    setAsking(true)
    setProblem(null)
    try {
      const { announcementId, consequences } = await consider('decideSend', argsOf(decision))
      if (othersThan([send.id], consequences).length > 0) setShown(decision)
      else
        tell.mutate({
          parameters: { id: send.id },
          body: { decision, announcementId, revision: send.revision },
        })
    } catch (fault) {
      if (!(fault instanceof ApiProblem)) throw fault
      setProblem(fault)
    } finally {
      setAsking(false)
    }
  }
  return {
    decide: (decision: SendDecision) => void decide(decision),
    isBusy: isAsking || tell.isPending,
    problem: problem ?? tell.error,
    shown,
    argsOf,
    close: () => setShown(null),
  }
}

/** What can be done about a message in its present state. */
export function SendDecisions({ send }: { send: SendLine }) {
  const { decide, isBusy, problem, shown, argsOf, close } = useDeciding(send)
  const choices = possible[send.state]
  if (choices.length === 0) return null
  if (shown !== null) {
    return <ConsideredAct name="decideSend" asked={argsOf(shown)} word={words[shown]} onClose={close} />
  }
  return (
    <>
      <div className={table.acts}>
        {choices.map((decision) => (
          <Button
            key={decision}
            size="compact-md"
            variant="default"
            disabled={isBusy}
            onClick={() => decide(decision)}
          >
            {words[decision]}
          </Button>
        ))}
      </div>
      <Problem of={problem} />
    </>
  )
}
