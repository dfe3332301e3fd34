import type { JSONContent } from '@tiptap/core'
import { EditorContent, useEditor } from '@tiptap/react'
import { AskedField, useAskedField } from './AskedField.tsx'
import { textExtensions } from './extensions.ts'
import styles from './letters.module.css'

interface TextEditorProps {
  readonly label: string
  /** Said above the words; without it the label is for those who hear it alone. */
  readonly hint?: string
  readonly initial: JSONContent
  readonly onChange: (document: JSONContent) => void
}

/** Some paragraphs of words with fields, without blocks. */
export function TextEditor({ label, hint, initial, onChange }: TextEditorProps) {
  const asked = useAskedField()
  const editor = useEditor({
    extensions: textExtensions(asked.ask),
    content: initial,
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': label,
        class: styles.line ?? '',
      },
    },
    onUpdate: ({ editor: present }) => onChange(present.getJSON()),
  })
  return (
    <div className={styles.field}>
      {hint !== undefined && (
        <div className={styles.fieldHead}>
          <span>{label}</span>
          <span className={styles.fieldValue}>{hint}</span>
        </div>
      )}
      <EditorContent editor={editor} />
      <AskedField editor={editor} asked={asked} />
    </div>
  )
}
