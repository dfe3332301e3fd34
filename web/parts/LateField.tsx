import { TextInput } from '@mantine/core'
import { Suspense, type ReactNode } from 'react'

interface LateFieldProps {
  readonly label: ReactNode
  /** How wide it will be; all there is where it is not said. */
  readonly width?: string
  readonly children: ReactNode
}

/** A field whose code is fetched when it is first shown; until then its place is kept, and nothing can be typed. */
export function LateField({ label, width, children }: LateFieldProps) {
  return <Suspense fallback={<TextInput label={label} w={width} disabled />}>{children}</Suspense>
}
