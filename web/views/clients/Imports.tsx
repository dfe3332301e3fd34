import { Button } from '@mantine/core'
import { useState } from 'react'
import type { Answer, Of } from '../../app/api.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './BringIn.module.css'

type Import = Answer<Of<'clientImports'>>['imports'][number]

const howMany = (count: number) => (count === 1 ? '1 client' : `${count.toLocaleString('en')} clients`)

function Line({ one }: { one: Import }) {
  const [isAsking, setAsking] = useState(false)
  const back = useTell('takeClientsBack', () => setAsking(false))
  const { id, at, fileName, personName, clients, takenBackAt } = one
  return (
    <li className={styles.import}>
      <span className={table.time}>
        <When at={at} />
      </span>
      <span>
        {howMany(clients)} from <b>{fileName}</b>
        {personName !== null && <span className={table.quiet}> · {personName}</span>}
        {back.data && (
          <span role="status">
            {' '}
            Taken back: {howMany(back.data.taken)}.
            {back.data.kept.length > 0 &&
              ` These stay, as they were used or have changed since: ${back.data.kept.map(({ name }) => name).join(', ')}.`}
          </span>
        )}
        <Problem of={back.error} />
        {isAsking && (
          <span>
            {' '}
            Who was added goes again, who was filled in is as before. Who was used or has changed since stays.
          </span>
        )}
      </span>
      <span className={table.acts}>
        {takenBackAt !== null && <span className={table.quiet}>taken back</span>}
        {takenBackAt === null && !isAsking && (
          <Button
            size="compact-sm"
            variant="default"
            aria-label={`Take back ${fileName}`}
            onClick={() => setAsking(true)}
          >
            Take back…
          </Button>
        )}
        {takenBackAt === null && isAsking && (
          <>
            <Button
              size="compact-sm"
              loading={back.isPending}
              onClick={() => back.mutate({ parameters: { id }, body: {} })}
            >
              Take them back
            </Button>
            <Button size="compact-sm" variant="default" onClick={() => setAsking(false)}>
              Leave them
            </Button>
          </>
        )}
      </span>
    </li>
  )
}

/** The last times clients were brought in, each to be taken back. */
export function Imports() {
  const { data } = useAsk('clientImports')
  if (!data || data.imports.length === 0) return null
  return (
    <section className={table.sheet} aria-label="Brought in before" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Brought in before</h2>
      <ul className={table.list}>
        {data.imports.map((one) => (
          <Line key={one.id} one={one} />
        ))}
      </ul>
    </section>
  )
}
