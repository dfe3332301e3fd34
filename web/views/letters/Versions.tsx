import { Button } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { useState } from 'react'
import type { LetterView } from '#core/api/letterEndpoints.ts'
import type { LetterContent } from '#core/model/letter.ts'
import { When } from '../../parts/When.tsx'
import { useAsk } from '../../app/queries.ts'
import { useEditing } from './editing.ts'
import { linesOf } from './plainLines.ts'
import styles from './letters.module.css'

/** Lines that only one of two texts has, in the order of both. */
export function Difference({ before, after }: { before: LetterContent; after: LetterContent }) {
  const settings = useAsk('settings')
  const { passages } = useEditing()
  const names = { passages, services: settings.data?.services ?? [] }
  const old = linesOf(before, names)
  const present = linesOf(after, names)
  const gone = old.filter((line) => !present.includes(line))
  const added = present.filter((line) => !old.includes(line))
  if (gone.length + added.length === 0) return <p>The text stays the same.</p>
  return (
    <div className={styles.difference}>
      {gone.map((line, index) => (
        <p key={`gone-${index}`}>
          <del>{line}</del>
        </p>
      ))}
      {added.map((line, index) => (
        <p key={`added-${index}`}>
          <ins>{line}</ins>
        </p>
      ))}
    </div>
  )
}

interface VersionsProps {
  readonly view: LetterView
  readonly present: LetterContent
  readonly onGoBack: (content: LetterContent) => void
}

/** Every version with who and when: compared with the present words, and a way back. */
export function Versions({ view, present, onGoBack }: VersionsProps) {
  const [open, setOpen] = useState<number | null>(null)
  return (
    <ul className={styles.problems}>
      {view.versions.map(({ version, changedAt, personName, content }) => (
        <li key={version}>
          <p>
            <b>Version {version}</b> · <When at={changedAt} /> · {personName ?? 'came with Vorfreude'}
          </p>
          <Button
            {...looking}
            variant="subtle"
            size="compact-sm"
            onClick={() => setOpen(open === version ? null : version)}
          >
            {open === version ? 'Close' : 'Compare'}
          </Button>
          <Button variant="subtle" size="compact-sm" onClick={() => onGoBack(content)}>
            Go back to it
          </Button>
          {open === version && <Difference before={content} after={present} />}
        </li>
      ))}
    </ul>
  )
}
