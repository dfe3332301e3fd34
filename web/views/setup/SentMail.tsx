import { Button } from '@mantine/core'
import { useRef } from 'react'
import type { Answer, Of } from '../../app/api.ts'
import { useTell } from '../../app/queries.ts'
import { base64Of } from '../../parts/base64.ts'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './setup.module.css'

type Compared = Answer<Of<'compareSent'>>

const messages = (count: number) => (count === 1 ? '1 message' : `${count.toLocaleString('en')} messages`)

function Report({ compared }: { compared: Compared }) {
  const { noted, known, unknown, unknownCount, others } = compared
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
  const compare = useTell('compareSent')
  const onFile = async (file: File) =>
    compare.mutate({ body: { base64: base64Of(new Uint8Array(await file.arrayBuffer())) } })
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
          onFile={(file) => void onFile(file)}
        />
        <div className={table.acts}>
          <Button variant="default" loading={compare.isPending} onClick={() => input.current?.click()}>
            Compare with sent mail…
          </Button>
        </div>
        <Problem of={compare.error} />
        {compare.data && <Report compared={compare.data} />}
      </div>
    </section>
  )
}
