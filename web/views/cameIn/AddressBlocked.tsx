import { Button } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { IncomingView } from '#core/api/incomingEndpoints.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { StateMark } from '../../parts/StateMark.tsx'
import { When } from '../../parts/When.tsx'
import desk from '../desk/Desk.module.css'
import styles from './CameIn.module.css'

/** An address that nothing goes to any more: all that waits because of it, and what can be done. */
export function AddressBlocked({ mail }: { mail: IncomingView }) {
  const [isAsked, setAsked] = useState(false)
  const { undelivered, blocked, match, phone, clientName } = mail
  const clientId = match.clientId
  if (clientId === null || !undelivered) return null
  return (
    <section aria-label="What waits because of it">
      <div className={desk.acts}>
        <Button component={Link} to={`/client/${clientId}/change`}>
          Correct the address
        </Button>
        {!isAsked && (
          <Button variant="default" onClick={() => setAsked(true)}>
            It works: send there again…
          </Button>
        )}
      </div>
      {isAsked && (
        <ConsideredAct
          name="unblockAddress"
          asked={{ parameters: { id: clientId }, body: { address: undelivered.address } }}
          word="Send there again"
          onClose={() => setAsked(false)}
        />
      )}
      <p>
        {phone === '' ? (
          'No telephone number is known.'
        ) : (
          <>
            Or call {clientName}: <a href={`tel:${phone.replace(/\s/g, '')}`}>{phone}</a>
          </>
        )}
      </p>
      <p>
        {blocked.length === 1 ? '1 message waits' : `${blocked.length} messages wait`} or came back because
        nothing goes to <b>{undelivered.address}</b>:
      </p>
      <ul className={styles.blocked}>
        {blocked.map((send) => (
          <li key={send.id}>
            {send.letterName}
            {send.bookingId !== null && (
              <>
                {' for '}
                <Link to={`/booking/${send.bookingId}`}>{send.serviceName}</Link>
              </>
            )}{' '}
            · <When at={send.shownAt} /> · <StateMark state={send.state} />
          </li>
        ))}
      </ul>
    </section>
  )
}
