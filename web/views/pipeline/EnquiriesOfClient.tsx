import { Link } from 'react-router'
import { useAsk } from '../../app/queries.ts'
import { ErrorState } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'

/** What a client has asked for, the newest first; nothing where that is nothing. */
export function EnquiriesOfClient({ id }: { id: string }) {
  const asked = useAsk('enquiriesOfClient', { parameters: { id } })
  if (asked.error) return <ErrorState problem={asked.error} onAgain={() => void asked.refetch()} />
  const lines = asked.data?.lines ?? []
  if (lines.length === 0) return null
  return (
    <>
      <h2 className={table.group}>Enquiries</h2>
      <ul className={table.list}>
        {lines.map((line) => (
          <li key={line.id}>
            <Link
              className={`${table.row ?? ''} ${table.dated ?? ''}`}
              to={`/enquiry/${line.id}`}
              style={{ '--columns': '11rem minmax(0, 1fr) 7rem' }}
            >
              <span className={table.time}>
                <When at={line.receivedAt} />
              </span>
              <span>{line.what || line.serviceName || 'not said what for'}</span>
              <span>{line.stage}</span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  )
}
