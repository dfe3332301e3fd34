import { Button } from '@mantine/core'
import type { UseFormReturnType } from '@mantine/form'
import { useState, type ReactNode } from 'react'
import { Link, useNavigate } from 'react-router'
import type { SettingsChange } from '#core/engine/commands/settingsCommands.ts'
import table from '../../parts/timetable.module.css'
import { SettingsEffect } from './SettingsEffect.tsx'
import styles from './setup.module.css'

/** What a form means: a change, or what is wrong with which of its fields. */
export type Read =
  | { readonly change: SettingsChange; readonly faults: null }
  | { readonly change: null; readonly faults: Readonly<Record<string, string>> }

interface SettingsFormProps<Draft> {
  readonly form: UseFormReturnType<Draft>
  readonly read: (draft: Draft) => Read
  readonly children: ReactNode
  /** What follows once it is saved, where it is not a page of Set-up. */
  readonly onDone?: () => void
  /** What stands below it and can look at what another draft would do. */
  readonly below?: (look: (draft: Draft) => void) => ReactNode
}

/** A form of settings: looked at before it is saved, and as it was left when one comes back from that. */
export function SettingsForm<Draft>({ form, read, children, onDone, below }: SettingsFormProps<Draft>) {
  const navigate = useNavigate()
  const [change, setChange] = useState<SettingsChange | null>(null)
  const [hasFaults, setHasFaults] = useState(false)
  const look = (draft: Draft) => {
    const meant = read(draft)
    setHasFaults(meant.faults !== null)
    setChange(meant.change)
    if (meant.faults === null) form.clearErrors()
    else form.setErrors(meant.faults)
  }
  if (change) {
    return (
      <SettingsEffect
        change={change}
        onClose={() => setChange(null)}
        onDone={() => {
          setChange(null)
          if (onDone) onDone()
          else void navigate('/set-up')
        }}
      />
    )
  }
  return (
    <>
      <form
        className={table.sheet}
        noValidate
        onSubmit={(event) => {
          event.preventDefault()
          look(form.values)
        }}
      >
        {children}
        <div className={styles.form}>
          {hasFaults && (
            <p role="alert" className={styles.fault}>
              ✕ Something in the form needs another value; it says so at its place.
            </p>
          )}
          <div className={table.acts}>
            <Button type="submit">See what saving it does</Button>
            {!onDone && (
              <Button variant="default" component={Link} to="/set-up">
                Cancel
              </Button>
            )}
          </div>
        </div>
      </form>
      {below?.(look)}
    </>
  )
}
