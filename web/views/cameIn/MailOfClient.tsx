import { Button } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { IncomingLine } from '#core/api/incomingEndpoints.ts'
import { useAsk } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { ErrorState } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { kindWords, titleOf } from './cameInWords.ts'
import { WrittenAnswers } from './WriteAnswer.tsx'

const columns = { '--columns': '11rem minmax(0, 1fr) auto' } as const

function MailRow({ mail }: { mail: IncomingLine }) {
  return (
    <li>
      <Link
        className={`${table.row ?? ''} ${table.dated ?? ''}`}
        to={`/desk/${mail.place ?? 'decide'}/${mail.id}`}
        style={columns}
      >
        <span className={table.time}>
          <When at={mail.at} />
        </span>
        <span>{titleOf(mail)}</span>
        <span>← {kindWords[mail.what.kind]}</span>
      </Link>
    </li>
  )
}

/** What a client wrote, what came back, and what the team answered since a moment; nothing where there is none. */
export function MailOfClient({ id, since = -Infinity }: { id: string; since?: number }) {
  const mail = useAsk('incomingOfClient', { parameters: { id } })
  if (mail.error) return <ErrorState problem={mail.error} onAgain={() => void mail.refetch()} />
  if (!mail.data) return null
  const incoming = mail.data.incoming.filter(({ at }) => at >= since)
  const answers = mail.data.answers.filter(({ at }) => at >= since)
  if (incoming.length === 0 && answers.length === 0) return null
  return (
    <>
      <h2 className={table.group}>Came in</h2>
      <ul className={table.list}>
        {incoming.map((one) => (
          <MailRow key={one.id} mail={one} />
        ))}
      </ul>
      <WrittenAnswers answers={answers} />
    </>
  )
}

/** What is known against an address of a client: messages came back from it. */
export function AddressTrouble({ clientId, address }: { clientId: string; address: string }) {
  const [isAsked, setAsked] = useState(false)
  const { data } = useAsk('incomingOfClient', { parameters: { id: clientId } })
  const found = data?.undelivered.find((one) => one.address.toLowerCase() === address.toLowerCase())
  if (!found) return null
  return (
    <>
      <br />
      {found.isBlocked ? '✕ nothing goes there: ' : 'full for now: '}
      {found.sentence} <When at={found.at} />
      {found.isBlocked &&
        (isAsked ? (
          <ConsideredAct
            name="unblockAddress"
            asked={{ parameters: { id: clientId }, body: { address: found.address } }}
            word="Send there again"
            onClose={() => setAsked(false)}
          />
        ) : (
          <>
            <br />
            <Button size="compact-sm" variant="default" onClick={() => setAsked(true)}>
              Send there again…
            </Button>
          </>
        ))}
    </>
  )
}
