import { EditorContent, useEditor } from '@tiptap/react'
import { useId } from 'react'
import type { Inline } from '#core/model/letter.ts'
import { AskedField, useAskedField } from './AskedField.tsx'
import { inlineContent, inlineOf } from './document.ts'
import { lineExtensions } from './extensions.ts'
import styles from './letters.module.css'

interface LineEditorProps {
  readonly label: string
  readonly initial: readonly Inline[]
  readonly onChange: (nodes: Inline[]) => void
}

/** One line of words with fields: a subject or a preheader. */
export function LineEditor({ label, initial, onChange }: LineEditorProps) {
  const asked = useAskedField()
  const id = useId()
  const editor = useEditor({
    extensions: lineExtensions(asked.ask),
    content: { type: 'doc', content: [{ type: 'paragraph', content: inlineContent(initial) }] },
    editorProps: {
      attributes: { role: 'textbox', 'aria-labelledby': id, class: styles.line ?? '' },
      transformPastedText: (text) => text.replace(/\s*[\r\n]+\s*/g, ' '),
    },
    onUpdate: ({ editor: present }) => onChange(inlineOf(present.getJSON().content[0]?.content)),
  })
  return (
    <div className={styles.field}>
      <div className={styles.fieldHead}>
        <span id={id}>{label}</span>
        <button type="button" className={styles.quietButton} onClick={asked.ask}>
          Field… <kbd>Ctrl+.</kbd>
        </button>
      </div>
      <EditorContent editor={editor} />
      <AskedField editor={editor} asked={asked} />
    </div>
  )
}
