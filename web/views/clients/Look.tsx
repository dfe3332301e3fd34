import { Button, Progress, Select } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { TableLook } from '#core/api/tableEndpoints.ts'
import { describedFields } from '#core/tables/clientFields.ts'
import { doubleActs, type DoubleAct } from '#core/tables/bringIn.ts'
import type { Answer, Of } from '../../app/api.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import styles from './BringIn.module.css'

const actWords: Readonly<Record<DoubleAct, string>> = {
  skip: 'leave it out',
  merge: 'fill in what they lack',
  add: 'add as somebody else',
}
const actChoices = doubleActs.map((act) => ({ value: act, label: actWords[act] }))
const actOf = (value: string | null): DoubleAct => doubleActs.find((act) => act === value) ?? 'skip'

/** How many there are, where only the first are shown. */
const rest = (all: number, shown: number) =>
  all > shown ? <li className={styles.line}>… and {(all - shown).toLocaleString('en')} more.</li> : null

function Faulty({ look }: { look: TableLook }) {
  if (look.counts.faulty === 0) return null
  return (
    <section aria-label="Not possible">
      <h2 className={table.group}>✕ {look.counts.faulty.toLocaleString('en')} cannot come in</h2>
      <ul className={table.list}>
        {look.faulty.map(({ line, faults }) => (
          <li key={line} className={styles.line}>
            <span className={table.quiet}>line {line}</span>
            <span>
              {faults.map(({ field, sentence }) => (
                <span key={`${field ?? ''} ${sentence}`}>
                  {field !== null && <b>{describedFields[field].label}: </b>}
                  {sentence}{' '}
                </span>
              ))}
            </span>
          </li>
        ))}
        {rest(look.counts.faulty, look.faulty.length)}
      </ul>
    </section>
  )
}

interface DoublesProps {
  readonly look: TableLook
  readonly act: DoubleAct
  readonly others: ReadonlyMap<number, DoubleAct>
  readonly onAct: (act: DoubleAct) => void
  readonly onOther: (line: number, act: DoubleAct) => void
}

/** Rows that are taken for somebody who is there: what is done with all of them, and with some of them instead. */
function Doubles({ look, act, others, onAct, onOther }: DoublesProps) {
  const { double } = look.counts
  if (double === 0) return null
  return (
    <section aria-label="There already">
      <h2 className={table.group}>◐ {double.toLocaleString('en')} seem to be there already</h2>
      <div className={styles.report}>
        <Select
          label="All of these"
          w="20rem"
          allowDeselect={false}
          data={actChoices}
          value={act}
          onChange={(value) => onAct(actOf(value))}
        />
      </div>
      <ul className={table.list}>
        {look.doubles.map(({ line, name, by, clientId, of }) => (
          <li key={line} className={styles.line}>
            <span className={table.quiet}>line {line}</span>
            <span>
              <b>{name}</b> has the {by} of{' '}
              {clientId === null ? of : <Link to={`/client/${clientId}`}>{of}</Link>}
            </span>
            <Select
              aria-label={`Line ${line}, ${name}`}
              size="xs"
              allowDeselect={false}
              data={actChoices.filter(({ value }) => clientId !== null || value !== 'merge')}
              value={others.get(line) ?? (clientId === null && act === 'merge' ? 'skip' : act)}
              onChange={(value) => onOther(line, actOf(value))}
            />
          </li>
        ))}
        {rest(double, look.doubles.length)}
      </ul>
    </section>
  )
}

function Fresh({ look }: { look: TableLook }) {
  const { new: count } = look.counts
  if (count === 0) return null
  return (
    <section aria-label="New">
      <h2 className={table.group}>○ {count.toLocaleString('en')} new</h2>
      <ul className={table.list}>
        {look.fresh.map(({ line, name, email, phone, dates }) => (
          <li key={line} className={styles.line}>
            <span className={table.quiet}>line {line}</span>
            <span>
              <b>{name}</b>{' '}
              {[email ?? 'no address: no message can reach them', phone, dates].filter(Boolean).join(' · ')}
            </span>
          </li>
        ))}
        {rest(count, look.fresh.length)}
      </ul>
    </section>
  )
}

type Brought = Answer<Of<'bringInClients'>>

function Report({ brought, onAnother }: { brought: Brought; onAnother: () => void }) {
  const { added, merged, left } = brought
  const parts = [
    `${added.toLocaleString('en')} ${added === 1 ? 'client' : 'clients'} came in`,
    ...(merged > 0 ? [`${merged.toLocaleString('en')} took what they lacked`] : []),
    ...(left > 0 ? [`${left.toLocaleString('en')} were left out`] : []),
  ]
  return (
    <div className={styles.report}>
      <p role="status">
        <b>{parts.join(', ')}.</b> Nothing is sent because of it: a sequence can include those who are there
        already, on its own page. Below it can be taken back.
      </p>
      <div className={table.acts}>
        <Button component={Link} to="/clients">
          To the clients
        </Button>
        <Button variant="default" onClick={onAnother}>
          Another file
        </Button>
      </div>
    </div>
  )
}

interface LookProps {
  readonly tableId: string
  readonly look: TableLook
  readonly onColumns: () => void
  readonly onAnother: () => void
}

/** What would come of each row, before anything is written. */
export function Look({ tableId, look, onColumns, onAnother }: LookProps) {
  const [act, setAct] = useState<DoubleAct>('skip')
  const [others, setOthers] = useState<ReadonlyMap<number, DoubleAct>>(new Map())
  const bring = useTell('bringInClients')
  const { new: fresh, double } = look.counts
  if (bring.data) return <Report brought={bring.data} onAnother={onAnother} />
  const isNobody = fresh === 0 && (double === 0 || (act === 'skip' && others.size === 0))
  const begin = () =>
    bring.mutate({
      parameters: { id: tableId },
      body: {
        lookId: look.id,
        doubles: act,
        others: [...others].map(([line, one]) => ({ line, act: one })),
      },
    })
  return (
    <>
      <div className={styles.report}>
        <p>Nothing is brought in yet. All of it comes in, or nothing.</p>
        {bring.isPending && <Progress value={100} animated aria-label="Being brought in" />}
        <Problem of={bring.error} />
        <div className={table.acts}>
          <Button disabled={isNobody} loading={bring.isPending} onClick={begin}>
            Bring them in
          </Button>
          <Button variant="default" disabled={bring.isPending} onClick={onColumns}>
            Back to the columns
          </Button>
        </div>
      </div>
      <Faulty look={look} />
      <Doubles
        look={look}
        act={act}
        others={others}
        onAct={(one) => {
          setAct(one)
          setOthers(new Map())
        }}
        onOther={(line, one) => setOthers(new Map(others).set(line, one))}
      />
      <Fresh look={look} />
    </>
  )
}
