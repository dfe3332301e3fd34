import { Button, Select } from '@mantine/core'
import { useState } from 'react'
import type { SettingsView } from '#core/api/views.ts'
import table from '../../parts/timetable.module.css'
import styles from './setup.module.css'

type Person = SettingsView['people'][number]

interface LeavingProps {
  readonly person: Person
  readonly people: readonly Person[]
  /** With who takes over; null: the business. */
  readonly onLook: (isActive: boolean, handedToId: string | null) => void
}

const ofBusiness = ''

/** Somebody leaves the team, and what was theirs is somebody else's; or they are back. */
export function Leaving({ person, people, onLook }: LeavingProps) {
  const others = people.filter(({ id, isActive }) => isActive && id !== person.id)
  const [heir, setHeir] = useState(others[0]?.id ?? ofBusiness)
  const handedTo = people.find(({ id }) => id === person.handedToId)
  return (
    <section className={table.sheet} aria-label="Leaving" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Leaving</h2>
      <div className={styles.form}>
        {person.isActive ? (
          <>
            <p>
              Who has left cannot sign in and does no more bookings. Bookings, enquiries and open tasks that
              are theirs go over to somebody else, and so does what would be sent in their name or to them.
            </p>
            <Select
              label="Who takes over"
              allowDeselect={false}
              data={[
                ...others.map(({ id, name }) => ({ value: id, label: name })),
                { value: ofBusiness, label: 'nobody: the business' },
              ]}
              value={heir}
              onChange={(id) => setHeir(id ?? ofBusiness)}
            />
          </>
        ) : (
          <p>
            {person.name} has left; what was theirs is {handedTo ? `${handedTo.name}’s` : 'of the business'}.
          </p>
        )}
        <div className={table.acts}>
          <Button
            variant="default"
            onClick={() => onLook(!person.isActive, person.isActive && heir !== ofBusiness ? heir : null)}
          >
            {person.isActive ? 'Has left…' : 'Is back…'}
          </Button>
        </div>
      </div>
    </section>
  )
}
