import { useDisclosure, useHotkeys } from '@mantine/hooks'
import { lazy, Suspense } from 'react'

const KeysDialog = lazy(() => import('./KeysDialog.tsx'))

/** `?` lists the keys of the screen. */
export function Keys() {
  const [isOpen, { open, close }] = useDisclosure(false)
  useHotkeys([
    ['?', open],
    ['shift+?', open],
    ['shift+/', open],
  ])
  return <Suspense fallback={null}>{isOpen && <KeysDialog onClose={close} />}</Suspense>
}
