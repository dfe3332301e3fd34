import { Button, Progress } from '@mantine/core'
import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Link } from 'react-router'
import { clientFields, type ClientField } from '#core/tables/clientFields.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { TableColumns, type Matched } from '../../parts/TableColumns.tsx'
import table from '../../parts/timetable.module.css'
import styles from './BringIn.module.css'
import { Imports } from './Imports.tsx'
import { Look } from './Look.tsx'
import { base64Of } from '../../parts/base64.ts'

const askEveryMs = 250

/** How far the look at the rows is. */
function Progressing({ tableId }: { tableId: string }) {
  const { data } = useAsk('tableProgress', { parameters: { id: tableId } }, { refetchInterval: askEveryMs })
  const { done = 0, total = 1 } = data ?? {}
  return <Progress value={(100 * done) / Math.max(1, total)} aria-label="Rows looked at" />
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
  const [matched, setMatched] = useState<Matched<ClientField> | null>(null)
  const another = () => {
    setMatched(null)
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
          <TableColumns
            of="clients"
            fields={clientFields}
            open={open.data}
            isLooking={look.isPending}
            onAnother={another}
            before={matched}
            onLook={(asked) => {
              setMatched(asked)
              look.mutate({ parameters: { id: open.data.id }, body: asked })
            }}
          >
            {look.isPending && <Progressing tableId={open.data.id} />}
          </TableColumns>
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
