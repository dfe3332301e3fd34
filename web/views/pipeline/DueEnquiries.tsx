import type { EnquiryLine } from '#core/api/enquiryViews.ts'
import { epochDayOf } from '#core/time/calendar.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import table from '../../parts/timetable.module.css'
import { Entry, Grouped, useDayWords } from '../desk/DeskList.tsx'

/** Enquiries of which something was to have come by today; one's own stand first. */
export function useDueEnquiries(isWanted: boolean): readonly EnquiryLine[] {
  const { session } = useBusiness()
  const due = useAsk('enquiriesDue', {}, { enabled: isWanted })
  const lines = (isWanted && due.data?.lines) || []
  const isOwn = ({ personInChargeId }: EnquiryLine) => personInChargeId === session.person?.id
  return [...lines.filter(isOwn), ...lines.filter((one) => !isOwn(one))]
}

/** The same as a list before all tasks. */
export function DueEnquiries({ lines }: { lines: readonly EnquiryLine[] }) {
  const words = useDayWords()
  if (lines.length === 0) return null
  return (
    <section aria-label="Enquiries due">
      <Grouped
        items={lines}
        headingOf={({ deadlineOn }) =>
          `Enquiries due ${deadlineOn === null ? '' : words(epochDayOf(deadlineOn))}`
        }
      >
        {(line) => (
          <Entry
            key={line.id}
            to={`/enquiry/${line.id}`}
            isHere={false}
            time=""
            name={line.clientName}
            words={line.what || line.serviceName || 'enquiry'}
            side={
              <>
                {line.stage}
                <span className={table.quiet}>{line.personName ?? 'nobody'}</span>
              </>
            }
          />
        )}
      </Grouped>
    </section>
  )
}
