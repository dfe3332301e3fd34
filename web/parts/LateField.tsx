import { TextInput } from '@mantine/core'
import { Suspense, type ReactNode } from 'react'

/** A field whose code is fetched when it is first shown; until then its place is kept, and nothing can be typed. */
export function LateField({ label, children }: { label: ReactNode; children: ReactNode }) {
  return <Suspense fallback={<TextInput label={label} disabled />}>{children}</Suspense>
}
