import { Button, Checkbox } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { useState } from 'react'
import type { NoteWishes as Wishes } from '#core/model/noteWishes.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { ClockField } from '../../parts/ClockField.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import table from '../../parts/timetable.module.css'

function Form({ initial, email }: { initial: Wishes; email: string }) {
  const [isMorningOn, setMorningOn] = useState(initial.morningAt !== null)
  const [morningAt, setMorningAt] = useState(initial.morningAt ?? '07:30')
  const [isAtOnceOn, setAtOnceOn] = useState(initial.isAtOnceOn)
  const set = useTell('setNoteWishes')
  const wishes: Wishes = { morningAt: isMorningOn ? morningAt : null, isAtOnceOn }
  const isSame = JSON.stringify(wishes) === JSON.stringify(initial)
  return (
    <SheetForm
      style={{ maxWidth: '36rem' }}
      onSubmit={() => {
        set.mutate({ body: { wishes } })
      }}
    >
      <p className={table.quiet}>To {email}. They come only where something needs you.</p>
      <Checkbox
        label="In the morning: what waits, what expires today, what went wrong"
        checked={isMorningOn}
        onChange={(event) => setMorningOn(event.currentTarget.checked)}
      />
      {isMorningOn && <ClockField label="At" value={morningAt} onChange={setMorningAt} />}
      <Checkbox
        label="At once: two hours before the last chance of something that still waits"
        checked={isAtOnceOn}
        onChange={(event) => setAtOnceOn(event.currentTarget.checked)}
      />
      <Problem of={set.error} />
      <div className={table.acts}>
        <Button
          {...looking}
          type="submit"
          disabled={isSame || (isMorningOn && morningAt === '')}
          loading={set.isPending}
        >
          Keep
        </Button>
      </div>
    </SheetForm>
  )
}

/** Which notes by mail the person who is signed in wants. */
export function NoteWishes() {
  const { data } = useAsk('noteWishes')
  if (!data) return null
  return (
    <section className={table.sheet} aria-label="Notes by mail to you" style={{ marginBottom: '1rem' }}>
      <h2 className={table.group}>Notes by mail to you</h2>
      <Form key={JSON.stringify(data.wishes)} initial={data.wishes} email={data.email} />
    </section>
  )
}
