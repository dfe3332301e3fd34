import type { RefObject } from 'react'

interface HiddenFileInputProps {
  readonly label: string
  /** What the button beside it presses. */
  readonly input: RefObject<HTMLInputElement | null>
  readonly accept: string
  readonly onFile: (file: File) => void
}

/** Asks for a file where a button of ours is pressed; the same file can be chosen again. */
export function HiddenFileInput({ label, input, accept, onFile }: HiddenFileInputProps) {
  return (
    <input
      ref={input}
      type="file"
      hidden
      aria-label={label}
      accept={accept}
      onChange={(event) => {
        const file = event.currentTarget.files?.[0]
        if (file) onFile(file)
        event.currentTarget.value = ''
      }}
    />
  )
}
