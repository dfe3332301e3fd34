import { Button, CopyButton } from '@mantine/core'
import { looking } from '../app/theme.ts'
import type { ReactNode } from 'react'
import table from './timetable.module.css'
import styles from './Copied.module.css'

/** A text to be taken elsewhere, with a button that copies it. */
export function Copied({ label, text, children }: { label: string; text: string; children?: ReactNode }) {
  return (
    <div>
      <p className={table.quiet}>{label}</p>
      <p className={styles.code}>{text}</p>
      <div className={table.acts}>
        <CopyButton value={text}>
          {({ copied, copy }) => (
            <Button
              {...looking}
              size="compact-sm"
              variant="default"
              onClick={copy}
              aria-label={`Copy: ${label}`}
            >
              {copied ? '✓ Copied' : 'Copy'}
            </Button>
          )}
        </CopyButton>
        {children}
      </div>
    </div>
  )
}
