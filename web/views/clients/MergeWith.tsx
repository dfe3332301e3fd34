import { Button } from '@mantine/core'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import type { Client } from '#core/model/client.ts'
import type { ClientView, DoubleLine } from '#core/api/views.ts'
import { useAsk } from '../../app/queries.ts'
import { ClientPicker } from '../../parts/ClientPicker.tsx'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './MergeWith.module.css'

const sameWords: Readonly<Record<DoubleLine['sameBy'], string>> = {
  address: 'the same address',
  telephone: 'the same telephone number',
  'name and date': 'the same name and date',
}

/** Who may be the same client, each at one press. */
function Doubles({ id, onChoose }: { id: string; onChoose: (id: string) => void }) {
  const doubles = useAsk('doublesOfClient', { parameters: { id } }).data?.doubles ?? []
  if (doubles.length === 0) return null
  return (
    <ul className={styles.doubles} aria-label="Who may be the same">
      {doubles.map((one) => (
        <li key={one.id}>
          <Button size="compact-md" variant="default" onClick={() => onChoose(one.id)}>
            {one.name}
          </Button>
          <span className={table.quiet}>
            {sameWords[one.sameBy]}
            {one.email !== null && ` · ${one.email}`}
          </span>
        </li>
      ))}
    </ul>
  )
}

function addressesOf({ contacts }: Client): string {
  return contacts.flatMap(({ email }) => email ?? []).join(', ') || 'no address'
}

/** Who stays and who goes, and what follows from that. */
function Chosen({ stays, other, onClose }: { stays: Client; other: Client; onClose: () => void }) {
  const navigate = useNavigate()
  return (
    <>
      <dl className={styles.sides}>
        <dt>Stays</dt>
        <dd>
          {stays.name}
          <span className={table.quiet}> · {addressesOf(stays)}</span>
        </dd>
        <dt>Goes</dt>
        <dd>
          {other.name}
          <span className={table.quiet}> · {addressesOf(other)}</span>
        </dd>
      </dl>
      <p className={table.note}>
        Bookings, messages and history of {other.name} become those of {stays.name}. Addresses, tags and dates
        that are not there yet come along; where the two differ, what {stays.name} has stays. It can be taken
        back.
      </p>
      <p>
        <Button
          size="compact-md"
          variant="subtle"
          onClick={() => void navigate(`/client/${other.id}/merge?with=${stays.id}`)}
        >
          The other way round: keep {other.name}
        </Button>
      </p>
      <ConsideredAct
        name="mergeClients"
        asked={{
          parameters: { id: stays.id },
          body: { revision: stays.revision, otherId: other.id, otherRevision: other.revision },
        }}
        word="Merge the two"
        onClose={onClose}
      />
    </>
  )
}

interface MergeWithProps {
  readonly client: Client
  /** Whom it is asked about already. */
  readonly otherId: string | null
  readonly onChoose: (otherId: string | null) => void
  readonly onClose: () => void
}

/** Two entries of one client become one. */
export function MergeWith({ client, otherId, onChoose, onClose }: MergeWithProps) {
  const other = useAsk('client', { parameters: { id: otherId ?? '' } }, { enabled: otherId !== null })
  return (
    <section className={table.form} aria-label="Merge with another client">
      <h2>Merge with another client</h2>
      <p>Two entries of one and the same client become one.</p>
      {otherId === null && <Doubles id={client.id} onChoose={onChoose} />}
      <ClientPicker
        label="The other entry"
        placeholder="Name or address"
        value={otherId}
        onChange={onChoose}
        clearable
        error={otherId === client.id ? 'This is the same entry: choose the other one.' : null}
      />
      {other.data && otherId !== null && other.data.client.id !== client.id ? (
        <Chosen key={otherId} stays={client} other={other.data.client} onClose={onClose} />
      ) : (
        <div className={table.acts}>
          <Button variant="default" onClick={onClose}>
            Cancel
          </Button>
        </div>
      )}
    </section>
  )
}

function Merge({ merge }: { merge: ClientView['merges'][number] }) {
  const [isAsking, setAsking] = useState(false)
  const navigate = useNavigate()
  const { id, name, at, personName } = merge
  return (
    <li>
      {name} <span className={table.quiet}>since </span>
      <When at={at} />
      {personName !== null && <span className={table.quiet}> by {personName}</span>}{' '}
      {!isAsking && (
        <Button size="compact-sm" variant="default" onClick={() => setAsking(true)}>
          Take apart…
        </Button>
      )}
      {isAsking && (
        <ConsideredAct
          name="takeMergeBack"
          asked={{ parameters: { id }, body: {} }}
          word="Take the two apart"
          onClose={() => setAsking(false)}
          onDone={({ id: goneId }) => void navigate(`/client/${goneId}`)}
        />
      )}
    </li>
  )
}

/** Who was merged into a client, each with the way back. */
export function Merges({ merges }: Pick<ClientView, 'merges'>) {
  if (merges.length === 0) return null
  return (
    <>
      <h2 className={table.group}>Merged with</h2>
      <ul className={styles.merges}>
        {merges.map((one) => (
          <Merge key={one.id} merge={one} />
        ))}
      </ul>
    </>
  )
}

/** Where one asks whether two entries are the same client. */
export const MergeLink = ({ id }: { id: string }) => (
  <p className={table.note}>
    <Link to={`/client/${id}/merge`}>Merge with another client…</Link>
  </p>
)
