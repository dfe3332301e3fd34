import { Button, SegmentedControl, TextInput } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import type { ClientLine } from '#core/api/views.ts'
import { useParts } from '../../app/queries.ts'
import { More } from '../../parts/More.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { ClientForm } from './ClientForm.tsx'

const filters = { all: 'All', booked: 'With a booking ahead', 'no-address': 'Without address' } as const
type Filter = keyof typeof filters

const columns = {
  '--columns': 'minmax(0, 1.3fr) minmax(0, 1.3fr) minmax(0, 1fr) minmax(0, 1fr) minmax(0, 0.7fr)',
}

/** An address that breaks behind its @, where it has to. */
function Address({ of }: { of: string }) {
  const at = of.lastIndexOf('@') + 1
  return (
    <>
      {of.slice(0, at)}
      <wbr />
      {of.slice(at)}
    </>
  )
}

function Row({ client }: { client: ClientLine }) {
  return (
    <li>
      <Link className={table.row} to={`/client/${client.id}`} style={columns}>
        <b>
          {client.name}
          {!client.isActive && <span className={table.quiet}> · inactive</span>}
        </b>
        <span className={table.address}>
          {client.email === null ? '✕ no e-mail address' : <Address of={client.email} />}
        </span>
        <span>
          {client.nextStartAt === null ? (
            <span className={table.quiet}>–</span>
          ) : (
            <When at={client.nextStartAt} />
          )}
        </span>
        <span className={table.quiet}>
          {client.lastSentAt === null ? '–' : <When at={client.lastSentAt} />}
        </span>
        <span className={table.quiet}>{client.tags.join(', ')}</span>
      </Link>
    </li>
  )
}

function List({ words, filter }: { words: string; filter: Filter }) {
  const [settled] = useDebouncedValue(words, 120)
  const clients = useParts('clients', { query: { words: settled, which: filter } }, { keepsLast: true })
  const { lines, first, problem, again } = clients
  if (problem) return <ErrorState problem={problem} onAgain={again} />
  if (!lines) return <Waiting />
  if (lines.length === 0) {
    return (
      <EmptyState title={first?.isAny ? 'No client fits.' : 'No clients yet.'}>
        <p>
          <Link to="/clients/new">Add a client</Link>, then make a booking. Those of another program{' '}
          <Link to="/clients/bring-in">can be brought in</Link>.
        </p>
      </EmptyState>
    )
  }
  return (
    <>
      <div className={`${table.row ?? ''} ${table.group ?? ''}`} style={columns} aria-hidden>
        <span>Client</span>
        <span>E-mail address</span>
        <span>Next booking</span>
        <span>Last message</span>
        <span>Tags</span>
      </div>
      <ul className={table.list}>
        {lines.map((client) => (
          <Row key={client.id} client={client} />
        ))}
      </ul>
      <More of={clients} />
    </>
  )
}

/** All clients as a ruled list; a new one is added beside it. */
export default function Clients() {
  const { mode } = useParams()
  const navigate = useNavigate()
  const [words, setWords] = useState('')
  const [filter, setFilter] = useState<Filter>('all')
  const isNew = mode === 'new'
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>Clients</h1>
        <TextInput
          aria-label="Find by name, address or tag"
          placeholder="name, address or tag"
          value={words}
          onChange={(event) => setWords(event.currentTarget.value)}
        />
        <SegmentedControl
          aria-label="Which clients"
          value={filter}
          onChange={(value) => setFilter(value as Filter)}
          data={Object.entries(filters).map(([value, label]) => ({ value, label }))}
        />
        <Link to="/clients/bring-in">Bring in a table or cards</Link>
        {!isNew && <Button onClick={() => void navigate('/clients/new')}>Add a client</Button>}
      </div>
      <div className={isNew ? table.split : ''}>
        <div className={table.sheet}>
          <List words={words} filter={filter} />
        </div>
        {isNew && (
          <aside className={`${table.sheet ?? ''} ${table.aside ?? ''}`} aria-label="Add a client">
            <ClientForm
              client={null}
              onClose={(id) => void navigate(id === null ? '/clients' : `/client/${id}`)}
            />
          </aside>
        )}
      </div>
    </div>
  )
}
