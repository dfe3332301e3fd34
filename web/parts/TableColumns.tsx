import { Button, Select } from '@mantine/core'
import { useState, type ReactNode } from 'react'
import { kindOfTable, type TableKind } from '#core/tables/kinds.ts'
import type { Answer, Of } from '../app/api.ts'
import styles from './TableColumns.module.css'
import table from './timetable.module.css'

type OpenTable = Answer<Of<'openTable'>>
type DateOrder = NonNullable<OpenTable['dateOrder']>

/** What a person says of a table: what each column is, and what dates begin with. */
export interface Matched<Field extends string> {
  readonly matching: (Field | null)[]
  readonly dateOrder: DateOrder
}

const leftOut = 'left out'

interface TableColumnsProps<Field extends string> {
  readonly of: TableKind
  /** All that a column can be. */
  readonly fields: readonly Field[]
  readonly open: OpenTable
  /** As it was matched before; null: not yet. */
  readonly before: Matched<Field> | null
  readonly onLook: (matched: Matched<Field>) => void
  readonly isLooking: boolean
  readonly onAnother: () => void
  /** What else is asked before the look, and how far that is. */
  readonly children?: ReactNode
}

interface DatesProps {
  readonly value: DateOrder
  /** Whether some date of the table says it. */
  readonly isSaid: boolean
  readonly onChange: (order: DateOrder) => void
}

/** What dates such as 05/04/1992 begin with. */
function Dates({ value, isSaid, onChange }: DatesProps) {
  return (
    <Select
      label="Dates such as 05/04/1992"
      description={isSaid ? undefined : 'None in the table says what comes first.'}
      w="20rem"
      allowDeselect={false}
      data={[
        { value: 'day first', label: 'day first: 5 April' },
        { value: 'month first', label: 'month first: 4 May' },
      ]}
      value={value}
      onChange={(order) => onChange(order === 'month first' ? order : 'day first')}
    />
  )
}

/** What each column of a table says, guessed and to be put right. */
export function TableColumns<Field extends string>(props: TableColumnsProps<Field>) {
  const { of, fields, open, before, onLook, isLooking, onAnother, children } = props
  const { fields: described, dateField } = kindOfTable[of]
  const fieldOf = (value: string | null) => fields.find((field) => field === value) ?? null
  const [matching, setMatching] = useState(
    () => before?.matching ?? open.columns.map(({ field }) => fieldOf(field)),
  )
  const [dateOrder, setDateOrder] = useState<DateOrder>(before?.dateOrder ?? open.dateOrder ?? 'day first')
  const choices = [
    { value: leftOut, label: 'left out' },
    ...fields.map((field) => ({ value: field, label: described[field]?.label ?? field })),
  ]
  return (
    <div className={styles.report}>
      <p>
        {open.rows.toLocaleString('en')} rows, written in {open.encoding}.{' '}
        {open.isRemembered
          ? 'The columns are matched as the last time.'
          : 'What the columns mean is guessed: look at it.'}
      </p>
      <ul className={styles.columns} aria-label="Columns">
        {open.columns.map(({ head, samples }, index) => (
          <li key={`${head} ${index}`} className={styles.column}>
            <span>
              <b>{head || `Column ${index + 1}`}</b>
              <br />
              <small className={table.quiet}>{samples.join(' · ') || 'nothing in the first rows'}</small>
            </span>
            <Select
              aria-label={`${head || `Column ${index + 1}`} is`}
              allowDeselect={false}
              data={choices}
              value={matching[index] ?? leftOut}
              onChange={(value) => setMatching(matching.with(index, fieldOf(value)))}
            />
          </li>
        ))}
      </ul>
      {matching.some((field) => field === dateField) && (
        <Dates value={dateOrder} isSaid={open.dateOrder !== null} onChange={setDateOrder} />
      )}
      {children}
      <div className={table.acts}>
        <Button loading={isLooking} onClick={() => onLook({ matching, dateOrder })}>
          See what would come in
        </Button>
        <Button variant="default" onClick={onAnother}>
          Another file
        </Button>
      </div>
    </div>
  )
}
