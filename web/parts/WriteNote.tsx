import { Button, Textarea } from '@mantine/core'
import { useState } from 'react'
import { useTell } from '../app/queries.ts'
import { Problem } from './Problem.tsx'
import { SheetForm } from './SheetForm.tsx'
import table from './timetable.module.css'

interface WriteNoteProps {
  /** What it is about. */
  readonly on: 'writeNote' | 'noteOnBooking' | 'noteOnEnquiry'
  readonly id: string
}

/** Writes down what is known of a client, a booking or an enquiry, with time and author. */
export function WriteNote({ on, id }: WriteNoteProps) {
  const [text, setText] = useState('')
  const write = useTell(on, () => setText(''))
  return (
    <SheetForm
      onSubmit={() => {
        write.mutate({ parameters: { id }, body: { text } })
      }}
    >
      <Textarea
        label="Note"
        autosize
        minRows={1}
        maxLength={4000}
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      <Problem of={write.error} />
      <div className={table.acts}>
        <Button type="submit" variant="default" disabled={text.trim() === ''} loading={write.isPending}>
          Write it down
        </Button>
      </div>
    </SheetForm>
  )
}
