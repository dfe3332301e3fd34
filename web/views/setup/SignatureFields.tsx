import { Button, Textarea } from '@mantine/core'
import type { UseFormReturnType } from '@mantine/form'
import { useRef, useState } from 'react'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import table from '../../parts/timetable.module.css'
import type { PersonDraft } from './personDraft.ts'
import { storeSignaturePicture } from './signaturePicture.ts'
import styles from './setup.module.css'

interface PortraitProps {
  readonly pictureId: string | null
  readonly onPut: (pictureId: string | null) => void
}

/** The picture beside a signature. */
function Portrait({ pictureId, onPut }: PortraitProps) {
  const input = useRef<HTMLInputElement>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [isMaking, setMaking] = useState(false)
  const take = (file: File) => {
    setMaking(true)
    setProblem(null)
    storeSignaturePicture(file)
      .then(onPut, (fault: unknown) => setProblem(fault instanceof Error ? fault.message : String(fault)))
      .finally(() => setMaking(false))
  }
  return (
    <>
      <div className={styles.portrait}>
        {pictureId !== null && (
          <img
            src={`/api/files/${pictureId}`}
            width={100}
            height={100}
            alt="The picture beside the signature"
          />
        )}
        <div className={table.acts}>
          <Button
            size="compact-md"
            variant="default"
            loading={isMaking}
            onClick={() => input.current?.click()}
          >
            {pictureId === null ? 'Add a picture' : 'Another picture'}
          </Button>
          {pictureId !== null && (
            <Button size="compact-md" variant="subtle" onClick={() => onPut(null)}>
              No picture
            </Button>
          )}
        </div>
        <HiddenFileInput
          label="Picture beside the signature"
          input={input}
          accept="image/png,image/jpeg,image/gif"
          onFile={take}
        />
      </div>
      {problem !== null && (
        <p role="alert" className={styles.fault}>
          ✕ {problem}
        </p>
      )}
    </>
  )
}

/** What stands under messages of whoever is in charge: some lines and a picture. */
export function SignatureFields({ form }: { form: UseFormReturnType<PersonDraft> }) {
  return (
    <>
      <Textarea
        label="Signature"
        description="Stands under the name where a letter has a signature; the business follows it."
        placeholder={'Pilot\nby telephone 9 to 12'}
        autosize
        minRows={2}
        maxRows={6}
        {...form.getInputProps('signature.text')}
      />
      <Portrait
        pictureId={form.values.signature.pictureId}
        onPut={(id) => form.setFieldValue('signature.pictureId', id)}
      />
    </>
  )
}
