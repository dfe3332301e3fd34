import type { HistoryLine } from '#core/api/views.ts'
import table from './timetable.module.css'
import { When } from './When.tsx'
import { WriteNote } from './WriteNote.tsx'

interface NotesOfProps {
  readonly on: 'noteOnBooking' | 'noteOnEnquiry'
  readonly id: string
  readonly clientId: string
  readonly history: readonly HistoryLine[]
}

/** What the team has written down about a booking or an enquiry. */
export function NotesOf({ on, id, clientId, history }: NotesOfProps) {
  const notes = history.filter(({ kind }) => kind === 'note written')
  return (
    <section aria-label="Notes">
      <h2 className={table.group}>Notes</h2>
      <ul className={table.list}>
        {notes.map(({ id: noteId, at, sentence, personName }) => (
          <li key={noteId} className={table.written}>
            {sentence}
            <br />
            <small className={table.quiet}>
              <When at={at} /> · {personName ?? 'by itself'}
            </small>
          </li>
        ))}
      </ul>
      <WriteNote on={on} id={id} clientId={clientId} />
    </section>
  )
}
