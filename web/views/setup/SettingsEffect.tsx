import { Button, Group } from '@mantine/core'
import { useState } from 'react'
import type { SettingsChange } from '#core/engine/commands/settingsCommands.ts'
import { call } from '../../app/api.ts'
import { useBusiness } from '../../app/business.ts'
import { useTell } from '../../app/queries.ts'
import { Outcome } from '../../parts/Difference.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { useDifference } from '../../parts/useDifference.ts'
import styles from './setup.module.css'

interface SettingsEffectProps {
  readonly change: SettingsChange
  readonly onClose: () => void
  readonly onDone: (id: string) => void
}

/** What changed settings would do to the messages of everybody, before they are saved. */
export function SettingsEffect({ change, onClose, onDone }: SettingsEffectProps) {
  const { isOwner } = useBusiness()
  const [round, setRound] = useState(0)
  const difference = useDifference(
    () => call('startSettingsDifference', { body: { change } }),
    JSON.stringify({ change, round }),
  )
  const put = useTell('changeSettings', ({ id }) => onDone(id))
  const { result } = difference
  const press = () => {
    if (!result) return
    const { announcementId } = result
    put.mutate(
      { body: { change, announcementId } },
      {
        onError: ({ details }) => {
          // The world has changed: what it would do now is shown in its place.
          if (details.code === 'changed meanwhile') setRound(round + 1)
        },
      },
    )
  }
  return (
    <section className={`${table.sheet ?? ''} ${styles.form ?? ''}`} aria-label="What saving it does">
      <h2>
        What saving it does <small className={table.quiet}>Nothing is saved yet.</small>
      </h2>
      <Outcome difference={difference} />
      <Problem of={put.error} />
      <Group>
        {isOwner ? (
          <Button onClick={press} loading={put.isPending} disabled={!result}>
            Save
          </Button>
        ) : (
          <p>Only the owner saves it.</p>
        )}
        <Button variant="default" onClick={onClose}>
          Back to the form
        </Button>
      </Group>
    </section>
  )
}
