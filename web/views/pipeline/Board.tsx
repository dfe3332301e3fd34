import {
  DndContext,
  DragOverlay,
  PointerSensor,
  useSensor,
  useSensors,
  type DragMoveEvent,
} from '@dnd-kit/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useRef, useState, type RefObject } from 'react'
import { Link } from 'react-router'
import type { StartedSequence } from '#core/api/moveViews.ts'
import type { EnquiryLine } from '#core/api/enquiryViews.ts'
import { moneyIn } from '#core/letters/language.ts'
import { epochDayOf } from '#core/time/calendar.ts'
import { useAsk } from '../../app/queries.ts'
import type { Chosen } from '../../parts/useChosen.ts'
import table from '../../parts/timetable.module.css'
import { EnquiryRow } from './EnquiryRow.tsx'
import styles from './pipeline.module.css'
import type { Band, Row } from './rows.ts'
import { StripHead, stripDays } from './Strip.tsx'

/** Heights before they are measured, in pixels. */
const heights: Readonly<Record<Row['kind'], number>> = { band: 44, line: 36, nothing: 36 }
const overscan = 12

/** What a stage sends, in a few words. */
function Sends({ sequences }: { sequences: readonly StartedSequence[] }) {
  const live = sequences.filter(({ state, first }) => state === 'live' && first !== null)
  if (live.length === 0) return <span className={table.quiet}>sends nothing by itself</span>
  return (
    <span className={table.quiet}>
      {live.map(({ id, first }, index) => (
        <span key={id}>
          {index > 0 && ', '}
          sends <Link to={`/sequence/${id}`}>{first?.label}</Link>
          {first?.waits && ' after a look'}
        </span>
      ))}
    </span>
  )
}

/** Who takes an enquiry over as it enters a stage, and until when something is to have come of it. */
function useTakesOver({ stage: { personInChargeId, deadlineDays } }: Band): string {
  const settings = useAsk('settings')
  const name = settings.data?.people.find(({ id }) => id === personInChargeId)?.name
  const days = deadlineDays === 1 ? '1 day' : `${deadlineDays ?? 0} days`
  return [name === undefined ? '' : `${name} takes over`, deadlineDays === null ? '' : `within ${days}`]
    .filter(Boolean)
    .join(', ')
}

function BandHead({ band, isFolded, onFold }: { band: Band; isFolded: boolean; onFold: () => void }) {
  const { stage, sum, lines } = band
  const takesOver = useTakesOver(band)
  const count = lines.length === sum.count ? `${sum.count}` : `${lines.length} of ${sum.count}`
  return (
    <h2 className={styles.band}>
      <button type="button" aria-expanded={!isFolded} onClick={onFold}>
        <span aria-hidden>{isFolded ? '▸' : '▾'}</span> {stage.name}
      </button>
      <b>{count}</b>
      {sum.cents > 0 && <span className={styles.sum}>{moneyIn('en', sum.cents)}</span>}
      {takesOver !== '' && <span className={table.quiet}>{takesOver}</span>}
      <Sends sequences={sum.sequences} />
    </h2>
  )
}

/** The stage of the band under the pointer; null: there is none. What is dragged lies above it. */
function stageUnder({ activatorEvent, delta }: DragMoveEvent): string | null {
  if (!(activatorEvent instanceof PointerEvent)) return null
  const [x, y] = [activatorEvent.clientX + delta.x, activatorEvent.clientY + delta.y]
  const row = document.elementsFromPoint(x, y).find((one) => one.closest('[data-stage]') !== null)
  return row?.closest('[data-stage]')?.getAttribute('data-stage') ?? null
}

interface BoardProps {
  readonly rows: readonly Row[]
  readonly folds: ReadonlySet<string>
  readonly today: string
  readonly openId: string | null
  readonly chosen: Chosen
  readonly onFold: (stage: string) => void
  readonly onOpen: (id: string) => void
  /** An enquiry is to go into a stage; what that does is shown before it is done. */
  readonly onPut: (id: string, stage: string) => void
  readonly onSend: (id: string, place: number) => void
}

const stageOfRow = (row: Row) =>
  row.kind === 'band' ? row.band.stage.name : row.kind === 'line' ? row.line.stage : row.stage

const stageOf = (row: Row | undefined) => (row ? stageOfRow(row) : null)

const keyOfRow = (row: Row) => (row.kind === 'line' ? row.line.id : `${row.kind} ${stageOfRow(row)}`)

function RowOf({ row, ...of }: { row: Row } & Omit<BoardProps, 'rows'>) {
  if (row.kind === 'nothing') {
    return <p className={styles.nothing}>Nothing here at present.</p>
  }
  if (row.kind === 'band') {
    const { name } = row.band.stage
    return <BandHead band={row.band} isFolded={of.folds.has(name)} onFold={() => of.onFold(name)} />
  }
  const { today, chosen, onOpen, onSend } = of
  const { line } = row
  return <EnquiryRow {...{ line, today, chosen, onOpen, onSend }} isOpen={line.id === of.openId} />
}

/** What is being dragged, under the pointer. */
function Carried({ line }: { line: EnquiryLine | undefined }) {
  return (
    <DragOverlay dropAnimation={null}>
      {line && (
        <div className={styles.carried}>
          <b>{line.clientName}</b> {line.what}
        </div>
      )}
    </DragOverlay>
  )
}

function ColumnHeads() {
  return (
    <div className={`${styles.entry ?? ''} ${styles.columns ?? ''}`} aria-hidden>
      <span>Client</span>
      <span>What for</span>
      <span>Day 0</span>
      <span>Deadline</span>
      <span>In stage</span>
      <span>In charge</span>
      <StripHead />
    </div>
  )
}

/** The rows that are in sight, by what they are and not by their place. */
const useRows = (rows: readonly Row[], scroller: RefObject<HTMLDivElement | null>) =>
  useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => heights[rows[index]?.kind ?? 'line'],
    getItemKey: (index) => {
      const row = rows[index]
      return row ? keyOfRow(row) : index
    },
    overscan,
  })

/** The open stages as bands under each other; only what is in sight is drawn, however many there are. */
export function Board(props: BoardProps) {
  const { rows, today, onPut } = props
  const scroller = useRef<HTMLDivElement>(null)
  const [carriedId, setCarriedId] = useState<string | null>(null)
  const [over, setOver] = useState<string | null>(null)
  const letGo = () => {
    setCarriedId(null)
    setOver(null)
  }
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }))
  const virtual = useRows(rows, scroller)
  const carried = rows.find((row) => row.kind === 'line' && row.line.id === carriedId)
  return (
    <DndContext
      sensors={sensors}
      onDragStart={({ active }) => setCarriedId(String(active.id))}
      onDragMove={(event) => setOver(stageUnder(event))}
      onDragCancel={letGo}
      onDragEnd={(event) => {
        const stage = stageUnder(event)
        if (stage !== null && stage !== stageOf(carried)) onPut(String(event.active.id), stage)
        letGo()
      }}
    >
      <div style={{ '--days': stripDays(epochDayOf(today)) }}>
        <ColumnHeads />
        <div
          ref={scroller}
          className={styles.scroller}
          tabIndex={0}
          role="region"
          aria-label="Enquiries by stage"
        >
          <ul className={styles.long} style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map(({ index, key, start }) => {
              const row = rows[index]
              if (!row) return null
              return (
                <li
                  key={key}
                  ref={virtual.measureElement}
                  data-index={index}
                  data-stage={stageOfRow(row)}
                  data-over={row.kind === 'band' && stageOfRow(row) === over && over !== stageOf(carried)}
                  style={{ transform: `translateY(${start}px)` }}
                >
                  <RowOf {...props} row={row} />
                </li>
              )
            })}
          </ul>
        </div>
      </div>
      <Carried line={carried?.kind === 'line' ? carried.line : undefined} />
    </DndContext>
  )
}
