import { Checkbox } from '@mantine/core'
import type { SendLine } from '#core/api/views.ts'
import { toWhom } from '#core/planning/toWhom.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { Many, type ManyWords } from '../../parts/Many.tsx'
import { StateMark } from '../../parts/StateMark.tsx'
import { TimeOfDay } from '../../parts/When.tsx'
import type { Chosen } from '../../parts/useChosen.ts'
import styles from './Desk.module.css'
import { Entry, Grouped, useDayWords } from './DeskList.tsx'

const offers: readonly ManyWords[] = [
  { act: 'send now', ask: 'Send now', doIt: (count) => `Send these ${count}`, done: 'go now' },
  { act: 'skip', ask: 'Let go', doIt: (count) => `Let these ${count} go`, done: 'let go' },
]

interface TroubleListProps {
  readonly items: readonly SendLine[]
  readonly hereId: string | undefined
  readonly chosen: Chosen
}

/** Until when a message would still be of use, in words that head a part of the list. */
function useUsefulWords() {
  const { zone, now } = useBusiness()
  const words = useDayWords()
  return ({ notAfter }: SendLine) => {
    if (notAfter === null) return 'Useful at any time'
    return `${notAfter < now ? 'Too late since' : 'Useful until'} ${words(dayAt(zone, notAfter))}`
  }
}

/** What went wrong, by until when it is of use; several can be sent or let go of at once. */
export function TroubleList({ items, hereId, chosen }: TroubleListProps) {
  const headingOf = useUsefulWords()
  const isAll = items.length > 0 && items.every(({ id }) => chosen.has(id))
  return (
    <>
      <div className={styles.chooseAll}>
        <Checkbox
          size="md"
          label={`Choose all ${items.length}`}
          checked={isAll}
          indeterminate={!isAll && chosen.ids.size > 0}
          onChange={() =>
            chosen.put(
              items.map(({ id }) => id),
              !isAll,
            )
          }
        />
      </div>
      <Grouped items={items} headingOf={headingOf}>
        {(send) => (
          <Entry
            key={send.id}
            to={`/desk/trouble/${send.id}`}
            isHere={send.id === hereId}
            before={
              <Checkbox
                size="md"
                aria-label={`Choose ${send.letterName} to ${send.clientName}`}
                checked={chosen.has(send.id)}
                onChange={() => chosen.toggle(send.id)}
              />
            }
            time={send.notAfter === null ? '–' : <TimeOfDay at={send.notAfter} />}
            name={toWhom(send)}
            words={send.letterName}
            side={<StateMark state={send.state} />}
          />
        )}
      </Grouped>
      <Many chosen={chosen} offers={offers} />
    </>
  )
}
