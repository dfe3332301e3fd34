import { Button, Checkbox } from '@mantine/core'
import { useRef, useState } from 'react'
import type { Attachment } from '#core/model/letter.ts'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import styles from './letters.module.css'
import { storeDocument } from '../../parts/storeFile.ts'

interface AttachmentsProps {
  readonly attachments: readonly Attachment[]
  readonly onChange: (attachments: Attachment[]) => void
}

/** What is sent along with a letter: the appointment for the client's calendar, and files. */
export function Attachments({ attachments, onChange }: AttachmentsProps) {
  const input = useRef<HTMLInputElement>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const files = attachments.filter((one) => one.kind === 'file')
  const hasCalendar = attachments.some(({ kind }) => kind === 'calendar')
  const add = (file: File) => {
    setProblem(null)
    storeDocument(file).then(
      (fileId) => onChange([...attachments, { kind: 'file', fileId, name: file.name }]),
      (fault: unknown) => setProblem(fault instanceof Error ? fault.message : String(fault)),
    )
  }
  return (
    <fieldset className={styles.along}>
      <legend>Sent along</legend>
      <Checkbox
        label="The appointment, for the client’s calendar"
        checked={hasCalendar}
        onChange={() =>
          onChange(
            hasCalendar
              ? attachments.filter(({ kind }) => kind !== 'calendar')
              : [{ kind: 'calendar' }, ...attachments],
          )
        }
      />
      {files.map(({ fileId, name }) => (
        <p key={fileId}>
          <a href={`/api/files/${fileId}`}>{name}</a>{' '}
          <Button
            variant="subtle"
            size="compact-sm"
            aria-label={`Take ${name} out`}
            onClick={() =>
              onChange(attachments.filter((one) => one.kind !== 'file' || one.fileId !== fileId))
            }
          >
            Remove
          </Button>
        </p>
      ))}
      <Button variant="default" size="compact-sm" onClick={() => input.current?.click()}>
        Add a PDF…
      </Button>
      <HiddenFileInput label="PDF file" input={input} accept="application/pdf" onFile={add} />
      {problem !== null && <p role="alert">✕ {problem}</p>}
    </fieldset>
  )
}
