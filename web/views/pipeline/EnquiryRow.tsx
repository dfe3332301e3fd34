import { useDraggable } from '@dnd-kit/core'
import type { KeyboardEvent } from 'react'
import type { EnquiryLine } from '#core/api/enquiryViews.ts'
import { dayMs, epochDayOf } from '#core/time/calendar.ts'
import { shortDate } from '#core/time/format.ts'
import { useBusiness } from '../../app/business.ts'
import type { Chosen } from '../../parts/useChosen.ts'
import table from '../../parts/timetable.module.css'
import styles from './pipeline.module.css'
import { isLate } from './rows.ts'
import { Strip } from './Strip.tsx'

/** For how long an enquiry has stood in its stage, in whole days. */
export function ageWords(since: number, now: number): string {
  const days = Math.max(0, Math.floor((now - since) / dayMs))
  return days === 0 ? 'today' : days === 1 ? '1 day' : `${days} days`
}

/** The facts of a line that are told beside its client. */
export function Dated({ line, today }: { line: EnquiryLine; today: string }) {
  const { year } = useBusiness()
  const { deadlineOn, wishedOn } = line
  return (
    <>
      <span>
        {wishedOn === null ? (
          <span className={table.quiet}>no date yet</span>
        ) : (
          shortDate(epochDayOf(wishedOn), year)
        )}
      </span>
      <span className={isLate(line, today) ? styles.late : table.quiet}>
        {deadlineOn !== null &&
          `${isLate(line, today) ? '✕ ' : ''}${shortDate(epochDayOf(deadlineOn), year)}`}
      </span>
    </>
  )
}

interface EnquiryRowProps {
  readonly line: EnquiryLine
  readonly today: string
  readonly isOpen: boolean
  readonly chosen: Chosen
  readonly onOpen: (id: string) => void
  /** A key was pressed that says into which stage, by its place from 1 on. */
  readonly onSend: (id: string, place: number) => void
}

/** One enquiry on one ruled line: opened by a press, dragged into another band, or sent there by a key. */
export function EnquiryRow({ line, today, isOpen, chosen, onOpen, onSend }: EnquiryRowProps) {
  const { now } = useBusiness()
  const { id, clientName, what, serviceName, personName, stageSince } = line
  const { setNodeRef, listeners, isDragging } = useDraggable({ id })
  const onKeyDown = (event: KeyboardEvent) => {
    if (!/^[1-9]$/.test(event.key) || event.ctrlKey || event.metaKey || event.altKey) return
    event.preventDefault()
    onSend(id, Number(event.key))
  }
  return (
    <div className={styles.line} data-open={isOpen} data-dragging={isDragging}>
      <label className={styles.choose}>
        <input
          type="checkbox"
          aria-label={`Choose ${clientName}`}
          checked={chosen.has(id)}
          onChange={() => chosen.toggle(id)}
        />
      </label>
      <button
        ref={setNodeRef}
        type="button"
        className={styles.entry}
        aria-current={isOpen}
        data-enquiry={id}
        onClick={() => onOpen(id)}
        {...listeners}
        onKeyDown={onKeyDown}
      >
        <b>{clientName}</b>
        <span className={styles.what}>
          {what || serviceName || <span className={table.quiet}>not said what for</span>}
        </span>
        <Dated line={line} today={today} />
        <span className={table.quiet}>{ageWords(stageSince, now)}</span>
        <span className={table.quiet}>{personName?.split(' ')[0] ?? 'nobody'}</span>
        <Strip line={line} isLate={isLate(line, today)} />
      </button>
    </div>
  )
}
