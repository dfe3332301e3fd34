import { Button, Progress } from '@mantine/core'
import { useRef } from 'react'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './setup.module.css'
import { useSentMail, type Compared } from './useSentMail.ts'

const messages = (count: number) => (count === 1 ? '1 message' : `${count.toLocaleString('en')} messages`)

function Report({ compared }: { compared: Compared }) {
  const { noted, known, unknown, unknownCount, others } = compared
  if (noted + known + unknownCount === 0) {
    return <p role="status">No mail that went out from here is in this file.</p>
  }
  return (
    <div role="status">
      <p>
        <b>{messages(noted)} had gone and will not go again.</b> {messages(known)} were known already
        {others > 0 && `; ${others.toLocaleString('en')} mails in the file are none of Vorfreude’s`}.
      </p>
      {unknownCount > 0 && (
        <>
          <p>
            {messages(unknownCount)} went out of which nothing is known here: what they are about was booked
            or changed later.
          </p>
          <ul className={styles.accounts} aria-label="Went out, and not known here">
            {unknown.map(({ to, at }, index) => (
              <li key={`${to} ${at ?? ''} ${index}`}>
                {at !== null && (
                  <>
                    <When at={at} /> ·{' '}
                  </>
                )}
                {to || 'to somebody'}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}

/** After a backup was put back: what the account kept of what went out since. */
export function SentMail() {
  const input = useRef<HTMLInputElement>(null)
  const { compared, part, problem, compare } = useSentMail()
  return (
    <section className={table.sheet} aria-label="After a backup was put back" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>After a backup was put back</h2>
      <div className={styles.form}>
        <p>
          A backup does not know what went out after it was taken. Before you switch sending on, give the sent
          mail of your account out of your mail program as an mbox file: what stands in it is noted as gone,
          so that nothing goes twice.
        </p>
        <HiddenFileInput
          label="Sent mail"
          input={input}
          accept=".mbox,.mbx,.eml,application/mbox,message/rfc822"
          onFile={(file) => void compare(file)}
        />
        <div className={table.acts}>
          <Button variant="default" loading={part !== null} onClick={() => input.current?.click()}>
            Compare with sent mail…
          </Button>
        </div>
        {part !== null && <Progress value={100 * part} aria-label="Sent mail compared so far" />}
        <Problem of={problem} />
        {compared && <Report compared={compared} />}
      </div>
    </section>
  )
}
