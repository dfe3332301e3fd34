import type { IncomingLine } from '#core/api/incomingEndpoints.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import type { Parts } from '../../app/queries.ts'
import { More } from '../../parts/More.tsx'
import table from '../../parts/timetable.module.css'
import { TimeOfDay } from '../../parts/When.tsx'
import { Entry, Grouped, useDayWords } from '../desk/DeskList.tsx'
import { kindWords, titleOf, whoseWords } from './cameInWords.ts'

interface CameInListProps {
  readonly cameIn: { readonly items: readonly IncomingLine[]; readonly parts: Parts<IncomingLine> }
  readonly group: string
  readonly hereId: string | undefined
}

/** What came in and needs somebody, before everything else of a group. */
export function CameInList({ cameIn: { items, parts }, group, hereId }: CameInListProps) {
  const { zone } = useBusiness()
  const words = useDayWords()
  if (items.length === 0) return null
  return (
    <section aria-label="Came in">
      <Grouped items={items} headingOf={({ at }) => `Came in ${words(dayAt(zone, at))}`}>
        {(mail) => (
          <Entry
            key={mail.id}
            to={`/desk/${group}/${mail.id}`}
            isHere={mail.id === hereId}
            time={<TimeOfDay at={mail.at} />}
            name={whoseWords(mail)}
            words={titleOf(mail)}
            side={
              <>
                ← {kindWords[mail.what.kind]}
                {mail.personName !== null && <span className={table.quiet}>{mail.personName}</span>}
              </>
            }
          />
        )}
      </Grouped>
      <More of={parts} />
    </section>
  )
}
