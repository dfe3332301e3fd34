import { Button } from '@mantine/core'
import type { SendLine } from '#core/api/views.ts'
import type { SendDecision } from '#core/engine/sendCommands.ts'
import type { SendState } from '#core/model/send.ts'
import { useTell } from '../app/queries.ts'
import { Problem } from './Problem.tsx'
import table from './timetable.module.css'

const possible: Partial<Record<SendState, readonly SendDecision[]>> = {
  waiting: ['approve', 'send now', 'skip'],
  ready: ['hold back', 'skip'],
  approved: ['hold back', 'skip'],
  missed: ['send now', 'skip'],
  failed: ['send now', 'skip'],
  blocked: ['send now', 'skip'],
  'in doubt': ['it went', 'send now', 'skip'],
}

const words: Readonly<Record<SendDecision, string>> = {
  approve: 'Approve it',
  'send now': 'Send it now',
  skip: 'Skip it',
  'it went': 'It went, no second one',
  'hold back': 'Hold it for approval',
  called: 'Called instead',
}

/** What can be done about a message in its present state. */
export function SendDecisions({ send }: { send: SendLine }) {
  const decide = useTell('decideSend')
  const choices = possible[send.state] ?? []
  if (choices.length === 0) return null
  return (
    <>
      <div className={table.acts}>
        {choices.map((decision) => (
          <Button
            key={decision}
            size="compact-md"
            variant="default"
            disabled={decide.isPending}
            onClick={() => decide.mutate({ parameters: { id: send.id }, body: { decision } })}
          >
            {words[decision]}
          </Button>
        ))}
      </div>
      <Problem of={decide.error} />
    </>
  )
}
