import { Button, Textarea, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { IncomingView, WrittenAnswerView } from '#core/api/incomingEndpoints.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { When } from '../../parts/When.tsx'
import desk from '../desk/Desk.module.css'
import styles from './CameIn.module.css'

const stateWords: Readonly<Record<WrittenAnswerView['state'], string>> = {
  ready: '○ goes next',
  sending: '○ is being handed over',
  sent: '✓ sent',
  failed: '✕ failed',
  'in doubt': '✕ in doubt',
}

/** What the team wrote in answer, with how it ended. */
export function WrittenAnswers({ answers }: { answers: readonly WrittenAnswerView[] }) {
  const again = useTell('sendAnswerAgain')
  return answers.map(({ id, at, personName, to, subject, text, state, reason }) => (
    <section key={id} className={styles.sent} aria-label={`Answer: ${subject}`}>
      <b>{subject}</b> · {personName ?? 'the business'} to {to} · <When at={at} /> · {stateWords[state]}
      {reason !== null && <p>{reason}</p>}
      {(state === 'failed' || state === 'in doubt') && (
        <Button
          size="compact-sm"
          variant="default"
          loading={again.isPending}
          onClick={() => again.mutate({ parameters: { id }, body: {} })}
        >
          Send it again
        </Button>
      )}
      <Problem of={again.error} />
      <pre>{text}</pre>
    </section>
  ))
}

/** Words typed and not sent stay for as long as the page is open, whichever mail is looked at meanwhile. */
const typed = new Map<string, string>()

interface WriteAnswerProps {
  readonly mail: IncomingView
  readonly onDone: () => void
  readonly onClose: () => void
}

/** An answer to a mail, in its thread. */
export function WriteAnswer({ mail, onDone, onClose }: WriteAnswerProps) {
  const [subject, setSubject] = useState(mail.answerSubject)
  const [text, setText] = useState(typed.get(mail.id) ?? '')
  const write = useTell('writeAnswer', () => {
    typed.delete(mail.id)
    onDone()
  })
  return (
    <form
      className={styles.answer}
      aria-label="Answer"
      onSubmit={(event) => {
        event.preventDefault()
        write.mutate({
          parameters: { id: mail.id },
          body: { revision: mail.revision, answer: { subject, text } },
        })
      }}
    >
      <TextInput
        label="Subject"
        maxLength={200}
        value={subject}
        onChange={(event) => setSubject(event.currentTarget.value)}
      />
      <Textarea
        label={`To ${mail.from.address}`}
        description="What they wrote is quoted under it."
        autosize
        autoFocus
        minRows={5}
        maxLength={20_000}
        required
        value={text}
        onChange={(event) => {
          setText(event.currentTarget.value)
          typed.set(mail.id, event.currentTarget.value)
        }}
      />
      <Problem of={write.error} />
      <div className={desk.acts}>
        <Button type="submit" loading={write.isPending} disabled={text.trim() === ''}>
          Send answer
        </Button>
        <Button variant="default" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </form>
  )
}
