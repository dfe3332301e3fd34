import { Button } from '@mantine/core'
import { Link } from 'react-router'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import form from '../setup/setup.module.css'

/** All that a client would get who books now, sent to one's own address. */
export function Rehearsal() {
  const { overview, session } = useBusiness()
  const { data: ways } = useAsk('waysOut')
  const rehearse = useTell('rehearse')
  const address = ways?.ownAddress ?? session.person?.email ?? ''
  return (
    <section className={table.sheet} aria-label="A rehearsal">
      <h2 className={table.group}>A rehearsal</h2>
      <div className={form.form}>
        <p>
          Somebody is imagined who books your first service now, for ten o’clock in eight days. All that they
          would get goes to {address} at once, the way messages go out now, each with its time before its
          subject. No client gets any of it, and its links lead nowhere.
        </p>
        <Problem of={rehearse.error} />
        {rehearse.data && (
          <div role="status">
            <p>
              {rehearse.data.messages.length === 1
                ? '1 message went'
                : `${rehearse.data.messages.length} messages went`}{' '}
              to {rehearse.data.address}. Look at them there.{' '}
              {overview.hasPostOffice && (
                <Link to={`/mailbox/${encodeURIComponent(rehearse.data.address)}`}>
                  Open the made-up mailbox
                </Link>
              )}
            </p>
            <ul>
              {rehearse.data.messages.map(({ at, subject }) => (
                <li key={`${at}${subject}`}>{subject}</li>
              ))}
            </ul>
          </div>
        )}
        <div className={table.acts}>
          <Button loading={rehearse.isPending} onClick={() => rehearse.mutate({ body: {} })}>
            {rehearse.data ? 'Send it once more' : 'Send me the rehearsal'}
          </Button>
        </div>
      </div>
    </section>
  )
}
