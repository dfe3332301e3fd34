import { Button, Select, TextInput } from '@mantine/core'
import { useState } from 'react'
import { mainAccountId } from '#core/model/furtherAccount.ts'
import type { Answer, Of } from '../../app/api.ts'
import { useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import table from '../../parts/timetable.module.css'
import { Copied } from '../../parts/Copied.tsx'
import copied from '../../parts/Copied.module.css'
import type { Further } from './furtherDraft.ts'
import styles from './setup.module.css'

type Line = Answer<Of<'domainRecords'>>['records'][number]

const marks: Readonly<Record<Line['verdict'], string>> = {
  there: '✓',
  missing: '○',
  wrong: '✕',
  'not known': '?',
}

function Record({ line }: { line: Line }) {
  const { what, name, toSet, found, verdict, sentence } = line
  return (
    <li>
      <p>
        <b>
          <span aria-hidden>{marks[verdict]}</span> {what}
        </b>{' '}
        at <code>{name}</code>: {sentence}
      </p>
      {found.map((text) => (
        <p key={text} className={copied.code}>
          {text}
        </p>
      ))}
      {verdict !== 'there' && toSet !== null && <Copied label={`Text record for ${name}`} text={toSet} />}
    </li>
  )
}

/** What the domain of the sender says about who may send in its name, and what to set there. */
export function DomainRecords({ further }: { further: readonly Further[] }) {
  const [accountId, setAccountId] = useState<string>(mainAccountId)
  const [selector, setSelector] = useState('')
  const look = useTell('domainRecords')
  const errors = look.error ? fieldErrors(look.error) : {}
  return (
    <section className={table.sheet} aria-label="What your domain says" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>What your domain says</h2>
      <SheetForm
        style={{ maxWidth: '54rem' }}
        onSubmit={() => look.mutate({ body: { accountId, selector: selector.trim() } })}
      >
        <p>
          Who gets your messages looks up whether your domain lets this mail server send for it. That stands
          in three text records, which you set where your domain is kept.
        </p>
        {further.length > 0 && (
          <Select
            label="For what goes through"
            allowDeselect={false}
            data={[
              { value: mainAccountId, label: 'the main account' },
              ...further.map(({ id, name }) => ({ value: id, label: name })),
            ]}
            value={accountId}
            onChange={(id) => {
              setAccountId(id ?? mainAccountId)
              look.reset()
            }}
          />
        )}
        <TextInput
          label="Name of the key (DKIM selector)"
          description="Who runs your mail server says it; left empty, the key is not looked at."
          value={selector}
          error={errors['selector']}
          onChange={(event) => setSelector(event.currentTarget.value)}
        />
        <Problem of={'selector' in errors ? null : look.error} />
        <div className={table.acts}>
          <Button type="submit" variant="default" loading={look.isPending}>
            Look at the records
          </Button>
        </div>
        {look.data && (
          <ul className={styles.records} aria-label="Records">
            {look.data.records.map((line) => (
              <Record key={line.what} line={line} />
            ))}
          </ul>
        )}
      </SheetForm>
    </section>
  )
}
