import { Button, TextInput } from '@mantine/core'
import { orNull } from './typed.ts'
import { useState } from 'react'
import type { WaysOut } from '#core/api/mailAccountEndpoints.ts'
import { useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import table from '../../parts/timetable.module.css'
import styles from './setup.module.css'

/** Where clients reach the house: what the links in messages begin with. */
export function PublicAddress({ ways: { publicUrl } }: { ways: WaysOut }) {
  const initial = publicUrl.way === 'unknown' ? '' : publicUrl.url
  const [url, setUrl] = useState(initial)
  const [isSaid, setSaid] = useState(false)
  const set = useTell('setPublicUrl', (answer) => {
    setUrl(answer.url ?? '')
    setSaid(true)
  })
  const isGiven = publicUrl.way === 'given'
  const error = set.error ? (fieldErrors(set.error)['url'] ?? set.error.message) : null
  return (
    <section className={table.sheet} aria-label="Where clients reach you" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Where clients reach you</h2>
      <form
        className={styles.form}
        noValidate
        onSubmit={(event) => {
          event.preventDefault()
          setSaid(false)
          set.mutate({ body: { url: orNull(url) } })
        }}
      >
        <p>
          Links in messages begin with this address: to confirm, move, pay, and to end mail. It has to lead to
          this program, from everywhere.
        </p>
        <TextInput
          label="Web address"
          type="url"
          placeholder="https://booking.place.example"
          autoComplete="off"
          disabled={isGiven}
          description={isGiven ? 'given by VORFREUDE_PUBLIC_URL' : undefined}
          value={url}
          error={error}
          onChange={(event) => {
            setUrl(event.currentTarget.value)
            setSaid(false)
            set.reset()
          }}
        />
        {isSaid && <p role="status">Links begin with this address from now on.</p>}
        {!isGiven && (
          <div className={table.acts}>
            <Button type="submit" disabled={url.trim() === initial} loading={set.isPending}>
              Keep this address
            </Button>
          </div>
        )}
      </form>
    </section>
  )
}
