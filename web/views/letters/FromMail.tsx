import { Button, Checkbox, Select, Textarea, TextInput } from '@mantine/core'
import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { fieldInfo } from '#core/letters/fieldList.ts'
import { sectionFromMail, valuesIn, withFields, type FoundValue } from '#core/letters/fromMail.ts'
import type { LetterContent } from '#core/model/letter.ts'
import { dateAndTime } from '#core/time/format.ts'
import type { Answer, Of } from '../../app/api.ts'
import { useBusiness } from '../../app/business.ts'
import { useTell } from '../../app/queries.ts'
import { base64Of } from '../../parts/base64.ts'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { CandidateSelect } from './CandidateSelect.tsx'
import styles from './letters.module.css'
import { useCandidate } from './useCandidate.ts'

const keyOf = ({ field, text }: FoundValue) => `${field} ${text}`

function letterOf(subject: string, text: string, values: readonly FoundValue[]): LetterContent {
  return {
    name: subject.trim().slice(0, 120) || 'A letter from a written mail',
    moment: 'any time',
    class: 'service',
    language: 'en',
    letterhead: 'none',
    subject: withFields(subject.trim(), values),
    preheader: [],
    sections: [sectionFromMail(text, values, 'text')],
    variants: [],
    attachments: [],
    isUnnoticed: false,
  }
}

interface FoundProps {
  readonly found: readonly FoundValue[]
  readonly isLeft: (value: FoundValue) => boolean
  readonly onToggle: (value: FoundValue) => void
}

/** Each value found, to be confirmed or left as it is typed. */
function Found({ found, isLeft, onToggle }: FoundProps) {
  if (found.length === 0) {
    return <p className={table.quiet}>Nothing of this client’s booking stands in the mail yet.</p>
  }
  return (
    <ul className={styles.problems} aria-label="Values that become fields">
      {found.map((value) => (
        <li key={keyOf(value)}>
          <Checkbox
            label={`“${value.text}” becomes ${fieldInfo(value.field).label}`}
            checked={!isLeft(value)}
            onChange={() => onToggle(value)}
          />
        </li>
      ))}
    </ul>
  )
}

type Mails = Answer<Of<'readMails'>>

interface OfFileProps {
  readonly onMail: (subject: string, text: string) => void
}

/** A mail of a file: there may be several in it. */
function OfFile({ onMail }: OfFileProps) {
  const { zone } = useBusiness()
  const input = useRef<HTMLInputElement>(null)
  const [chosen, setChosen] = useState<string | null>(null)
  const choose = ({ mails }: Mails, index: number) => {
    const mail = mails[index]
    if (!mail) return
    setChosen(String(index))
    onMail(mail.subject, mail.text)
  }
  const read = useTell('readMails', (found) => choose(found, found.mails.length - 1))
  const onFile = async (file: File) =>
    read.mutate({ body: { base64: base64Of(new Uint8Array(await file.arrayBuffer())) } })
  const mails = read.data?.mails ?? []
  return (
    <>
      <HiddenFileInput
        label="Mail or mailbox file"
        input={input}
        accept=".eml,.mbox,.mbx,message/rfc822,application/mbox"
        onFile={(file) => void onFile(file)}
      />
      <div className={table.acts}>
        <Button variant="default" loading={read.isPending} onClick={() => input.current?.click()}>
          Take it from a file (.eml, mbox)…
        </Button>
      </div>
      <Problem of={read.error} />
      {mails.length > 1 && (
        <Select
          label={`${mails.length} mails in the file`}
          description={read.data?.isCut ? 'There are more in it: these are the last ones.' : undefined}
          allowDeselect={false}
          searchable
          data={mails.map(({ subject, from, at }, index) => ({
            value: String(index),
            label: [subject || 'without a subject', from, at === null ? '' : dateAndTime(zone, at)]
              .filter(Boolean)
              .join(' · '),
          }))}
          value={chosen}
          onChange={(index) => {
            if (read.data && index !== null) choose(read.data, Number(index))
          }}
        />
      )}
    </>
  )
}

/** A mail once written to a real client becomes a letter: what matches their booking becomes fields. */
export default function FromMail() {
  const navigate = useNavigate()
  const [subject, setSubject] = useState('')
  const [text, setText] = useState('')
  const [left, setLeft] = useState<readonly string[]>([])
  const { candidates, chosen, choose, facts } = useCandidate()
  const add = useTell('addLetter', ({ id }) => void navigate(`/letter/${id}`))
  const found = facts ? valuesIn(`${subject}\n${text}`, facts, 'en') : []
  const taken = found.filter((value) => !left.includes(keyOf(value)))
  const toggle = (value: FoundValue) =>
    setLeft((before) =>
      before.includes(keyOf(value))
        ? before.filter((one) => one !== keyOf(value))
        : [...before, keyOf(value)],
    )
  return (
    <form
      className={table.page}
      onSubmit={(event) => {
        event.preventDefault()
        add.mutate({ body: { content: letterOf(subject, text, taken) } })
      }}
    >
      <div className={table.head}>
        <h1>From a written mail to a letter</h1>
      </div>
      <div className={`${table.sheet ?? ''} ${styles.writing ?? ''}`}>
        <CandidateSelect label="Written to" candidates={candidates} chosen={chosen} onChoose={choose} />
        <OfFile
          onMail={(read, words) => {
            setSubject(read)
            setText(words)
          }}
        />
        <TextInput
          label="Subject of the mail"
          value={subject}
          maxLength={300}
          onChange={(event) => setSubject(event.currentTarget.value)}
        />
        <Textarea
          label="Text of the mail"
          autosize
          minRows={8}
          maxLength={50_000}
          value={text}
          onChange={(event) => setText(event.currentTarget.value)}
        />
        <Found found={found} isLeft={(value) => left.includes(keyOf(value))} onToggle={toggle} />
        <Problem of={add.error} />
        <Button type="submit" disabled={text.trim() === ''} loading={add.isPending}>
          Make a letter of it
        </Button>
      </div>
    </form>
  )
}
