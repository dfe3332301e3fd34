import { Button, CopyButton } from '@mantine/core'
import table from '../../parts/timetable.module.css'
import styles from './setup.module.css'

/** A text to be taken elsewhere, with a button that copies it. */
export function Copied({ label, text }: { label: string; text: string }) {
  return (
    <div>
      <p className={table.quiet}>{label}</p>
      <p className={styles.code}>{text}</p>
      <CopyButton value={text}>
        {({ copied, copy }) => (
          <Button size="compact-sm" variant="default" onClick={copy} aria-label={`Copy: ${label}`}>
            {copied ? '✓ Copied' : 'Copy'}
          </Button>
        )}
      </CopyButton>
    </div>
  )
}
