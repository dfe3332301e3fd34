import { Button, Checkbox, NumberInput } from '@mantine/core'
import { useState } from 'react'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import table from '../../parts/timetable.module.css'

const usualMonths = 24

/** What goes at once when that is kept: it does not come back. */
function Older({ months }: { months: number }) {
  const { data } = useAsk('sourcesKept', { query: { months: String(months) } })
  if (!data) return <p className={table.quiet}>Counting …</p>
  const { older } = data
  if (older === 0) return <p className={table.quiet}>No e-mail is older than that yet.</p>
  return (
    <p>
      {older === 1 ? 'One e-mail is' : `${older.toLocaleString('en')} e-mails are`} older than that. Their
      files go at once and do not come back; what they said stays.
    </p>
  )
}

function Form({ initial }: { initial: number | null }) {
  const [isForEver, setForEver] = useState(initial === null)
  const [months, setMonths] = useState<number | string>(initial ?? usualMonths)
  const set = useTell('setSourcesKept')
  const isWhole = typeof months === 'number' && Number.isInteger(months) && months >= 1 && months <= 600
  const wanted = isForEver ? null : months
  const isShorter = isWhole && !isForEver && (initial === null || months < initial)
  return (
    <SheetForm
      style={{ maxWidth: '36rem' }}
      onSubmit={() => {
        if (isForEver || isWhole) set.mutate({ body: { months: isForEver ? null : Number(months) } })
      }}
    >
      <p className={table.quiet}>
        Each e-mail is kept as it went, as a file for a mail program. After some time only what it said is
        kept, with its facts and reasons.
      </p>
      <Checkbox
        label="Keep the files forever"
        checked={isForEver}
        onChange={(event) => setForEver(event.currentTarget.checked)}
      />
      {!isForEver && (
        <NumberInput
          label="For so many months"
          min={1}
          max={600}
          allowDecimal={false}
          clampBehavior="none"
          value={months}
          onChange={setMonths}
          error={isWhole ? null : 'Whole months, from 1 to 600.'}
          style={{ maxWidth: '12rem' }}
        />
      )}
      {isShorter && <Older months={months} />}
      <Problem of={set.error} />
      <div className={table.acts}>
        <Button
          type="submit"
          disabled={wanted === initial || (!isForEver && !isWhole)}
          loading={set.isPending}
        >
          Keep
        </Button>
      </div>
    </SheetForm>
  )
}

/** For how long e-mails are kept as they went; the owner's to say. */
export function SourcesKept() {
  const { isOwner } = useBusiness()
  const { data } = useAsk('sourcesKept', {}, { enabled: isOwner })
  if (!isOwner || !data) return null
  return (
    <section className={table.sheet} aria-label="Sent e-mails as files" style={{ marginBottom: '1rem' }}>
      <h2 className={table.group}>Sent e-mails as files</h2>
      <Form key={String(data.months)} initial={data.months} />
    </section>
  )
}
