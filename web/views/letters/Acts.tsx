import { Button, Group } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { LetterView } from '#core/api/letterEndpoints.ts'
import { letterFileFormat, type LetterContent, type LetterFile } from '#core/model/letter.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { When } from '../../parts/When.tsx'
import { download } from '../../parts/download.ts'
import styles from './letters.module.css'

/** Asks before a letter goes for good. */
function Deleting({ view, onKeep }: { view: LetterView; onKeep: () => void }) {
  const navigate = useNavigate()
  const remove = useTell('removeLetter', () => void navigate('/letters'))
  const { versions, letter } = view
  return (
    <div role="alert" className={styles.changed}>
      <p>
        The letter and its {versions.length === 1 ? 'only version' : `${versions.length} versions`} go for
        good.
      </p>
      <Group gap="xs">
        <Button
          size="compact-sm"
          loading={remove.isPending}
          onClick={() => remove.mutate({ parameters: { id: letter.id }, body: {} })}
        >
          Delete it
        </Button>
        <Button variant="default" size="compact-sm" onClick={onKeep}>
          Keep it
        </Button>
      </Group>
      <Problem of={remove.error} />
    </div>
  )
}

/** What can be done with a letter as a whole. */
export function Acts({ view, content }: { view: LetterView; content: LetterContent }) {
  const [isAsking, setIsAsking] = useState(false)
  const navigate = useNavigate()
  const { id, isArchived } = view.letter
  const add = useTell('addLetter', (answer) => void navigate(`/letter/${answer.id}`))
  const archive = useTell('archiveLetter')
  return (
    <div>
      <Group gap="xs">
        <Button
          variant="default"
          size="compact-sm"
          onClick={() =>
            add.mutate({ body: { content: { ...content, name: `${content.name}, copy`.slice(0, 120) } } })
          }
        >
          Copy
        </Button>
        <Button
          {...looking}
          variant="default"
          size="compact-sm"
          onClick={() =>
            download(
              `${content.name}.json`,
              'application/json',
              JSON.stringify({ format: letterFileFormat, ...content } satisfies LetterFile, null, 2),
            )
          }
        >
          Save as a file
        </Button>
        <Button
          variant="default"
          size="compact-sm"
          onClick={() => archive.mutate({ parameters: { id }, body: { isArchived: !isArchived } })}
        >
          {isArchived ? 'Restore' : 'Archive'}
        </Button>
        <Button variant="default" size="compact-sm" onClick={() => setIsAsking(true)}>
          Delete…
        </Button>
      </Group>
      {isAsking && <Deleting view={view} onKeep={() => setIsAsking(false)} />}
      <Problem of={archive.error ?? add.error} />
      {view.versions[0] && (
        <p className={styles.changed}>
          {view.letter.changedAt > 0 && (
            <>
              Changed <When at={view.letter.changedAt} />{' '}
            </>
          )}
          {view.usedBy.length > 0 && `· sent by ${view.usedBy.join(', ')}`}
        </p>
      )}
    </div>
  )
}
