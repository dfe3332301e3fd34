import { Button, Checkbox } from '@mantine/core'
import { Link } from 'react-router'
import { useState } from 'react'
import { differingFact, type DifferingFact, type FormReceipt } from '#core/model/form.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './pipeline.module.css'

const factWords: Readonly<Record<DifferingFact, string>> = {
  firstName: 'First name',
  lastName: 'Last name',
  phone: 'Telephone',
  'promotional mail': 'Takes promotional mail',
}

/** What a form says otherwise than is known: taken over or left, nothing by itself. */
function Differing({ receipt }: { receipt: FormReceipt }) {
  const open = receipt.differs.filter(({ decided }) => decided === null)
  const [taken, setTaken] = useState<readonly DifferingFact[]>([])
  const decide = useTell('decideDifferences')
  if (open.length === 0) return null
  const press = (facts: readonly DifferingFact[]) =>
    decide.mutate({ parameters: { id: receipt.id }, body: { taken: [...facts] } })
  return (
    <div role="group" aria-label="Said otherwise than known">
      <p>▲ The form says otherwise than is known:</p>
      <ul className={styles.differs}>
        {open.map(({ fact, known, given }) => (
          <li key={fact}>
            <Checkbox
              label={`${factWords[fact]}: ${given} (known: ${known === '' ? 'none' : known})`}
              checked={taken.includes(fact)}
              onChange={({ currentTarget: { checked } }) =>
                setTaken(
                  differingFact.options.filter((one) => (one === fact ? checked : taken.includes(one))),
                )
              }
            />
          </li>
        ))}
      </ul>
      <Problem of={decide.error} />
      <div className={table.acts}>
        <Button
          size="compact-md"
          disabled={taken.length === 0}
          loading={decide.isPending}
          onClick={() => press(taken)}
        >
          Take over what is ticked
        </Button>
        <Button size="compact-md" variant="default" disabled={decide.isPending} onClick={() => press([])}>
          Leave it as it is known
        </Button>
      </div>
    </div>
  )
}

/** The form an enquiry came by. */
export function CameByForm({ receipt }: { receipt: FormReceipt | null }) {
  if (!receipt) return null
  const { formId, formName, at, revision } = receipt
  return (
    <div className={table.form}>
      <p className={table.quiet}>
        Came by the form <Link to={`/set-up/form/${formId}`}>{formName}</Link> on <When at={at} />, version{' '}
        {revision}.
      </p>
      <Differing receipt={receipt} />
    </div>
  )
}
