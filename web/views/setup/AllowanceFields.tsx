import { Button, NumberInput } from '@mantine/core'
import { useState } from 'react'
import type { Allowance } from '#core/model/allowance.ts'
import { useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import table from '../../parts/timetable.module.css'
import styles from './setup.module.css'

type Part = keyof Allowance

/** How much an account takes, as it is typed; empty: any number. */
export type AllowanceDraft = Readonly<Record<Part, number | string>>

const partWords: Readonly<Record<Part, string>> = {
  perMinute: 'In a minute',
  perHour: 'In an hour',
  perDay: 'In a day',
  perMonth: 'In a month',
}
const parts: readonly Part[] = ['perMinute', 'perHour', 'perDay', 'perMonth']

export const allowanceDraft = (allowance: Allowance): AllowanceDraft => ({
  perMinute: allowance.perMinute ?? '',
  perHour: allowance.perHour ?? '',
  perDay: allowance.perDay ?? '',
  perMonth: allowance.perMonth ?? '',
})

const numberOf = (typed: number | string) => (typed === '' ? null : Number(typed))
export const allowanceOf = (draft: AllowanceDraft): Allowance => ({
  perMinute: numberOf(draft.perMinute),
  perHour: numberOf(draft.perHour),
  perDay: numberOf(draft.perDay),
  perMonth: numberOf(draft.perMonth),
})

interface AllowanceFieldsProps {
  readonly draft: AllowanceDraft
  readonly errorOf: (part: Part) => string | undefined
  readonly set: (draft: AllowanceDraft) => void
}

/** How many messages an account takes in which time. */
export function AllowanceFields({ draft, errorOf, set }: AllowanceFieldsProps) {
  return (
    <div className={styles.several}>
      {parts.map((part) => (
        <NumberInput
          key={part}
          label={partWords[part]}
          placeholder="any number"
          min={1}
          allowDecimal={false}
          value={draft[part]}
          error={errorOf(part)}
          onChange={(typed) => set({ ...draft, [part]: typed })}
        />
      ))}
    </div>
  )
}

/** How much the main account takes. */
export function MainAllowance({ allowance }: { allowance: Allowance }) {
  const [draft, setDraft] = useState(() => allowanceDraft(allowance))
  const [isSaid, setSaid] = useState(false)
  const keep = useTell('setAllowance', () => setSaid(true))
  const errors = keep.error ? fieldErrors(keep.error, 'allowance') : {}
  return (
    <section className={table.sheet} aria-label="How much it takes" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>How much it takes</h2>
      <SheetForm
        style={{ maxWidth: '54rem' }}
        onSubmit={() => keep.mutate({ body: { allowance: allowanceOf(draft) } })}
      >
        <p>
          Who runs your mail server often says how many messages it takes. What is more waits, promotional
          messages first, and says so; with a number in a minute messages only go bit by bit.
        </p>
        <AllowanceFields
          draft={draft}
          errorOf={(part) => errors[part]}
          set={(typed) => {
            setDraft(typed)
            setSaid(false)
          }}
        />
        <Problem of={keep.error} />
        {isSaid && <p role="status">Kept. It holds from now on.</p>}
        <div className={table.acts}>
          <Button type="submit" variant="default" loading={keep.isPending}>
            Keep this
          </Button>
        </div>
      </SheetForm>
    </section>
  )
}
