import type { HistoryLine } from '#core/api/views.ts'
import table from './timetable.module.css'
import { When } from './When.tsx'

/** What happened, the newest first, with who did it. */
export function History({ lines }: { lines: readonly HistoryLine[] }) {
  return (
    <ul className={table.list}>
      {lines.map((line) => (
        <li
          key={line.id}
          className={`${table.row ?? ''} ${table.dated ?? ''}`}
          style={{ '--columns': '11rem minmax(0, 1fr) auto' }}
        >
          <span className={table.time}>
            <When at={line.at} />
          </span>
          <span>{line.sentence}</span>
          <span className={table.quiet}>{line.personName ?? 'by itself'}</span>
        </li>
      ))}
    </ul>
  )
}
