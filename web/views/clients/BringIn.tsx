import { Button, Progress, Select } from '@mantine/core'
import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Link } from 'react-router'
import { clientFields, describedFields, type ClientField } from '#core/tables/clientFields.ts'
import type { Answer, Of } from '../../app/api.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import styles from './BringIn.module.css'
import { Imports } from './Imports.tsx'
import { Look } from './Look.tsx'
import { base64Of } from './base64.ts'

export type OpenTable = Answer<Of<'openTable'>>
type DateOrder = NonNullable<OpenTable['dateOrder']>

const askEveryMs = 250

const leftOut = 'left out'

const fieldChoices = [
  { value: leftOut, label: 'left out' },
  ...clientFields.map((field) => ({ value: field, label: describedFields[field].label })),
]

/** How far the look at the rows is. */
function Progressing({ tableId }: { tableId: string }) {
  const { data } = useAsk('tableProgress', { parameters: { id: tableId } }, { refetchInterval: askEveryMs })
  const { done = 0, total = 1 } = data ?? {}
  return <Progress value={(100 * done) / Math.max(1, total)} aria-label="Rows looked at" />
}

interface ColumnsProps {
  readonly open: OpenTable
  readonly onLook: (matching: (ClientField | null)[], dateOrder: DateOrder) => void
  readonly isLooking: boolean
  readonly onAnother: () => void
}

/** What each column says, guessed and to be put right. */
function Columns({ open, onLook, isLooking, onAnother }: ColumnsProps) {
  const [matching, setMatching] = useState<(ClientField | null)[]>(open.columns.map(({ field }) => field))
  const [dateOrder, setDateOrder] = useState<DateOrder>(open.dateOrder ?? 'day first')
  const put = (index: number, value: string | null) =>
    setMatching(matching.with(index, clientFields.find((field) => field === value) ?? null))
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
              data={fieldChoices}
              value={matching[index] ?? leftOut}
              onChange={(value) => put(index, value)}
            />
          </li>
        ))}
      </ul>
      {matching.includes('birthday') && (
        <Select
          label="Dates such as 05/04/1992"
          description={open.dateOrder === null ? 'None in the table says what comes first.' : undefined}
          w="20rem"
          allowDeselect={false}
          data={[
            { value: 'day first', label: 'day first: 5 April' },
            { value: 'month first', label: 'month first: 4 May' },
          ]}
          value={dateOrder}
          onChange={(value) => setDateOrder(value === 'month first' ? value : 'day first')}
        />
      )}
      {isLooking && <Progressing tableId={open.id} />}
      <div className={table.acts}>
        <Button loading={isLooking} onClick={() => onLook(matching, dateOrder)}>
          See what would come in
        </Button>
        <Button variant="default" onClick={onAnother}>
          Another file
        </Button>
      </div>
    </div>
  )
}

interface AskingProps {
  readonly onFile: (file: File) => void
  readonly isReading: boolean
}

function Asking({ onFile, isReading }: AskingProps) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <div className={styles.report}>
      <p>
        A table (CSV), as every spreadsheet saves it, or cards (vCard) of an address book. You see what each
        row would become before anything is done. Nothing is sent because of it.
      </p>
      <HiddenFileInput
        label="Table or cards"
        input={input}
        accept=".csv,.tsv,.txt,.vcf,text/csv,text/vcard"
        onFile={onFile}
      />
      <div className={table.acts}>
        <Button loading={isReading} onClick={() => input.current?.click()}>
          Choose the file…
        </Button>
      </div>
    </div>
  )
}

/** Clients of a table or an address book: matched, looked at, brought in, and taken back where it was wrong. */
export default function BringIn() {
  const client = useQueryClient()
  const open = useTell('openTable')
  const look = useTell('lookAtTable')
  const another = () => {
    open.reset()
    look.reset()
    void client.invalidateQueries()
  }
  const read = async (file: File) => {
    open.mutate({ body: { fileName: file.name, base64: base64Of(new Uint8Array(await file.arrayBuffer())) } })
  }
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>
          <Link to="/clients">Clients</Link> · Bring in
        </h1>
      </div>
      <div className={table.sheet}>
        {!open.data && <Asking onFile={(file) => void read(file)} isReading={open.isPending} />}
        {open.data && !look.data && (
          <Columns
            open={open.data}
            isLooking={look.isPending}
            onAnother={another}
            onLook={(matching, dateOrder) =>
              look.mutate({ parameters: { id: open.data.id }, body: { matching, dateOrder } })
            }
          />
        )}
        {(open.error ?? look.error) && (
          <div className={styles.report}>
            <Problem of={open.error ?? look.error} />
          </div>
        )}
        {open.data && look.data && (
          <Look tableId={open.data.id} look={look.data} onColumns={() => look.reset()} onAnother={another} />
        )}
      </div>
      <Imports />
    </div>
  )
}
