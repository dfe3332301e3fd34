import { epochDayOf } from '#core/time/calendar.ts'
import { shortDate } from '#core/time/format.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { Entry } from '../desk/DeskList.tsx'

/** Enquiries of which something was to have come by today, before all tasks; one's own stand first. */
export function DueEnquiries() {
  const { session, year } = useBusiness()
  const due = useAsk('enquiriesDue')
  const lines = due.data?.lines ?? []
  const isOwn = (one: (typeof lines)[number]) => one.personInChargeId === session.person?.id
  const ordered = [...lines.filter(isOwn), ...lines.filter((one) => !isOwn(one))]
  if (due.error) return <Problem of={due.error} />
  if (ordered.length === 0) return null
  return (
    <section aria-label="Enquiries due">
      <h2 className={table.group}>Enquiries due</h2>
      <ul className={table.list}>
        {ordered.map((line) => (
          <Entry
            key={line.id}
            to={`/enquiry/${line.id}`}
            isHere={false}
            time={line.deadlineOn === null ? '' : shortDate(epochDayOf(line.deadlineOn), year)}
            name={line.clientName}
            words={line.what || line.serviceName || 'enquiry'}
            side={
              <>
                {line.stage}
                <span className={table.quiet}>{line.personName ?? 'nobody'}</span>
              </>
            }
          />
        ))}
      </ul>
    </section>
  )
}
