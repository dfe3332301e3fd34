import type { Editor } from '@tiptap/react'
import { useState } from 'react'
import { useAsk } from '../../app/queries.ts'
import { FieldPicker } from './FieldPicker.tsx'

/** Whether a field is being asked for, and the way to ask. */
export function useAskedField() {
  const [isAsking, setIsAsking] = useState(false)
  // At hand before it is asked: what is typed while the list is fetched would go elsewhere.
  useAsk('settings')
  return { isAsking, ask: () => setIsAsking(true), end: () => setIsAsking(false) }
}

interface AskedFieldProps {
  readonly editor: Editor
  readonly asked: ReturnType<typeof useAskedField>
}

/** Asks for a field and puts it in at the cursor; left without one, the cursor goes back into the words. */
export function AskedField({ editor, asked: { isAsking, end } }: AskedFieldProps) {
  if (!isAsking) return null
  return (
    <FieldPicker
      onChoose={(field) => {
        // At once, not with the next frame as the editor's own command does: what is typed meanwhile would be lost.
        editor.view.focus()
        editor.commands.insertField(field)
        end()
      }}
      onClose={end}
      onLeave={() => {
        end()
        editor.commands.focus()
      }}
    />
  )
}
