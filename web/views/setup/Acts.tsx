import { Button, TextInput } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { useState } from 'react'
import { Link } from 'react-router'
import type { ActLine } from '#core/api/actEndpoints.ts'
import { looking } from '../../app/theme.ts'
import { useBusiness } from '../../app/business.ts'
import { useParts } from '../../app/queries.ts'
import { More } from '../../parts/More.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import { SetUpPage } from '../../parts/SetUpPage.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './Acts.module.css'

type Thing = ActLine['things'][number]

/** Where a thing stands in Vorfreude. */
const pageOf: Readonly<Record<string, (id: string) => string>> = {
  booking: (id) => `/booking/${id}`,
  client: (id) => `/client/${id}`,
  letter: (id) => `/letter/${id}`,
  person: (id) => `/set-up/person/${id}`,
  sequence: (id) => `/sequence/${id}`,
  service: (id) => `/set-up/service/${id}`,
  status: (id) => `/set-up/status/${id}`,
}

/** A fact as it is read, such as `contacts 1, phone` for `contacts.0.phone`. */
const factWords = (path: string) =>
  path
    .replace(/\.(\d+)/g, (_, index: string) => ` ${Number(index) + 1}`)
    .replaceAll('.', ', ')
    .replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)

function Name({ what, id, name }: Thing) {
  const words = [what, name].filter(Boolean).join(' ')
  const page = pageOf[what]?.(id)
  return page === undefined ? <b>{words}</b> : <Link to={page}>{words}</Link>
}

/** Each fact of a thing, before and after. */
function Facts({ thing }: { thing: Thing }) {
  return (
    <section>
      <p className={styles.thing}>
        <Name {...thing} />
      </p>
      <div
        className={styles.scroll}
        tabIndex={0}
        role="group"
        aria-label={`What changed of the ${thing.what}`}
      >
        <table className={styles.facts}>
          <thead>
            <tr>
              <th scope="col">Fact</th>
              <th scope="col">Before</th>
              <th scope="col">After</th>
            </tr>
          </thead>
          <tbody>
            {thing.facts.map(({ path, before, after }) => (
              <tr key={path}>
                <th scope="row">{factWords(path)}</th>
                <td>{before ?? '–'}</td>
                <td>{after ?? '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

function Line({ act }: { act: ActLine }) {
  const [isOpen, setOpen] = useState(false)
  const { at, personName, from, sentence, things } = act
  const about = [...new Set(things.map(({ name }) => name).filter(Boolean))].slice(0, 3).join(', ')
  return (
    <li>
      <div className={styles.line}>
        <span className={table.time}>
          <When at={at} />
        </span>
        <span>{personName || 'nobody known'}</span>
        <span>
          {sentence}
          {about !== '' && <b> · {about}</b>}
        </span>
        <span className={table.quiet}>{from}</span>
        <span>
          {things.length > 0 && (
            <Button
              {...looking}
              size="compact-sm"
              variant="default"
              aria-expanded={isOpen}
              aria-label={`What changed: ${sentence}${about === '' ? '' : `, ${about}`}`}
              onClick={() => setOpen(!isOpen)}
            >
              {isOpen ? 'Close' : 'What changed'}
            </Button>
          )}
        </span>
      </div>
      {isOpen && (
        <div className={styles.open}>
          {things.map((thing) => (
            <Facts key={`${thing.what} ${thing.id}`} thing={thing} />
          ))}
        </div>
      )}
    </li>
  )
}

function List({ words }: { words: string }) {
  const acts = useParts('acts', { query: { words } }, { keepsLast: true })
  if (acts.problem) return <ErrorState problem={acts.problem} onAgain={acts.again} />
  if (!acts.lines) return <Waiting />
  if (acts.lines.length === 0) {
    return words === '' ? (
      <EmptyState title="Nothing was done yet." />
    ) : (
      <EmptyState title="Nothing like this was done.">
        <p>Names, addresses, and facts before and after are looked through.</p>
      </EmptyState>
    )
  }
  return (
    <>
      <ul className={table.list} aria-label="What was done, the newest first">
        {acts.lines.map((act) => (
          <Line key={act.id} act={act} />
        ))}
      </ul>
      <More of={acts} />
    </>
  )
}

/** Who did what, when and from where, with how it was before; the owner's. */
export default function Acts() {
  const { isOwner } = useBusiness()
  const [words, setWords] = useState('')
  const [asked] = useDebouncedValue(words.trim(), 250)
  return (
    <SetUpPage
      title="Record of acts"
      beside={
        <>
          {isOwner && (
            <TextInput
              aria-label="Find in the record"
              placeholder="name, act or fact"
              value={words}
              onChange={(event) => setWords(event.currentTarget.value)}
            />
          )}
          {isOwner && <a href={`/api/acts.csv?words=${encodeURIComponent(asked)}`}>As a table (CSV)</a>}
        </>
      }
    >
      <div className={table.sheet}>
        {isOwner ? (
          <List words={asked} />
        ) : (
          <EmptyState title="The record is the owner’s.">
            <p>What people do is written down here, with how it was before.</p>
          </EmptyState>
        )}
      </div>
    </SetUpPage>
  )
}
