import { UnstyledButton } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { lazy, Suspense, useState } from 'react'
import styles from './Frame.module.css'

const FindDialog = lazy(() => import('./FindDialog.tsx'))

/** Ctrl+K: goes to any client, booking, letter, sequence or section, by name, address or date. */
export function Find() {
  const [asked, setAsked] = useState(0)
  const ask = () => setAsked((before) => before + 1)
  // Also while something is being typed.
  useHotkeys([['mod + K', ask]], [], true)
  return (
    <>
      <UnstyledButton className={styles.find} title="Find: Ctrl+K. Keys of this screen: ?" onClick={ask}>
        Find
      </UnstyledButton>
      <Suspense fallback={null}>{asked > 0 && <FindDialog asked={asked} />}</Suspense>
    </>
  )
}
