import { Button, Select, TextInput } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import { keyDays, keyScopes, keyScopeWords, type KeyScope } from '#core/model/apiKey.ts'
import type { ApiKeyLine } from '#core/api/keyEndpoints.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { looking } from '../../app/theme.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { PresentPassword } from '../../parts/PresentPassword.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { Copied } from '../../parts/Copied.tsx'
import styles from './Programs.module.css'

const untilTakenBack = 'until it is taken back'
const daysWords = (days: number | null) => (days === null ? untilTakenBack : `for ${days} days`)
const allDays = [...keyDays, null]

/** What a key is for, as it is typed. */
interface Draft {
  readonly name: string
  readonly scope: KeyScope
  readonly days: (typeof keyDays)[number] | null
  readonly present: string
}

const empty: Draft = { name: '', scope: 'look', days: 90, present: '' }

function NewKey({ onMade, onClose }: { onMade: (key: string) => void; onClose: () => void }) {
  const { session } = useBusiness()
  const [draft, setDraft] = useState(empty)
  const make = useTell('makeApiKey', ({ key }) => onMade(key))
  const errors = make.error ? fieldErrors(make.error, 'key') : {}
  const { name, scope, days, present } = draft
  return (
    <SheetForm
      style={{ maxWidth: '36rem' }}
      onSubmit={() => make.mutate({ body: { present, key: { name, scope, days } } })}
    >
      <TextInput
        label="What it is for"
        placeholder="the calendar on our website"
        value={name}
        error={errors['name']}
        onChange={(event) => setDraft({ ...draft, name: event.currentTarget.value })}
      />
      <Select
        label="How far it reaches"
        allowDeselect={false}
        data={keyScopes.map((value) => ({ value, label: keyScopeWords[value] }))}
        value={scope}
        onChange={(chosen) => setDraft({ ...draft, scope: chosen ?? scope })}
      />
      <Select
        label="How long it is good"
        allowDeselect={false}
        data={allDays.map(daysWords)}
        value={daysWords(days)}
        onChange={(chosen) =>
          setDraft({ ...draft, days: allDays.find((one) => daysWords(one) === chosen) ?? null })
        }
      />
      {!session.isDemo && (
        <PresentPassword
          value={present}
          problem={make.error}
          onChange={(value) => setDraft({ ...draft, present: value })}
        />
      )}
      <Problem of={make.error} />
      <div className={table.acts}>
        <Button
          {...looking}
          type="submit"
          loading={make.isPending}
          disabled={name.trim() === '' || (present === '' && !session.isDemo)}
        >
          Make the key
        </Button>
        <Button {...looking} variant="default" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </SheetForm>
  )
}

/** A key taken back, after it was asked once more: what uses it stops working. */
function TakeBack({ id, name }: { id: string; name: string }) {
  const [isAsking, setAsking] = useState(false)
  const end = useTell('endApiKey')
  return isAsking ? (
    <span className={table.acts}>
      <Problem of={end.error} />
      <Button
        {...looking}
        size="compact-sm"
        color="brick"
        loading={end.isPending}
        onClick={() => end.mutate({ parameters: { id }, body: {} })}
      >
        Take it back now
      </Button>
      <Button {...looking} size="compact-sm" variant="default" onClick={() => setAsking(false)}>
        Keep it
      </Button>
    </span>
  ) : (
    <Button
      {...looking}
      size="compact-sm"
      variant="default"
      aria-label={`Take back ${name}`}
      onClick={() => setAsking(true)}
    >
      Take back…
    </Button>
  )
}

function KeyRow({ one, isOwn }: { one: ApiKeyLine; isOwn: boolean }) {
  const { id, name, scope, hint, personName, madeAt, endsAt, usedAt, usedFrom } = one
  return (
    <li className={styles.row}>
      <span>
        <b>{name}</b>
        {!isOwn && <span className={table.quiet}> · {personName}</span>}
        <br />
        <span className={table.quiet}>
          <code>{hint}…</code> · {keyScopeWords[scope]}
        </span>
      </span>
      <span className={table.quiet}>
        since <When at={madeAt} />
        {endsAt !== null && (
          <>
            , until <When at={endsAt} />
          </>
        )}
        <br />
        {usedAt === null ? (
          'never used'
        ) : (
          <>
            last used <When at={usedAt} />
            {usedFrom !== null && ` from ${usedFrom}`}
          </>
        )}
      </span>
      <TakeBack id={id} name={name} />
    </li>
  )
}

/** The keys there are, and the way to one more. */
export function Keys() {
  const { session } = useBusiness()
  const { data } = useAsk('apiKeys')
  const [isMaking, setMaking] = useState(false)
  const [made, setMade] = useState<string | null>(null)
  if (!data) return null
  return (
    <section className={table.sheet} aria-label="Keys" style={{ marginBottom: '1rem' }}>
      <h2 className={table.group}>Keys</h2>
      <div className={styles.body}>
        <p>
          By a key another program asks Vorfreude as you would: what it can ask stands in{' '}
          <Link to="/set-up/programs/api">the description</Link>. It goes with each request as{' '}
          <code>Authorization: Bearer …</code>
        </p>
        {made !== null && (
          <div role="status">
            <Copied label="The new key. It is shown this once: keep it now." text={made}>
              <Button {...looking} size="compact-sm" variant="default" onClick={() => setMade(null)}>
                I have it
              </Button>
            </Copied>
          </div>
        )}
      </div>
      {data.keys.length > 0 && (
        <ul className={styles.rows} aria-label="The keys there are">
          {data.keys.map((one) => (
            <KeyRow key={one.id} one={one} isOwn={one.personId === session.person?.id} />
          ))}
        </ul>
      )}
      {isMaking ? (
        <NewKey
          onMade={(key) => {
            setMade(key)
            setMaking(false)
          }}
          onClose={() => setMaking(false)}
        />
      ) : (
        <div className={styles.body}>
          <Button {...looking} variant="default" onClick={() => setMaking(true)}>
            New key
          </Button>
        </div>
      )}
    </section>
  )
}
