import { Button, Menu } from '@mantine/core'
import { RichTextEditor } from '@mantine/tiptap'
import { useEditor, type Editor, type JSONContent } from '@tiptap/react'
import { useRef, useState } from 'react'
import { linkToField } from '#core/letters/links.ts'
import type { Section } from '#core/model/letter.ts'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import { AskedField, useAskedField } from './AskedField.tsx'
import { documentOf, sectionsOf } from './document.ts'
import { useEditing } from './editing.ts'
import { addBlock, bodyExtensions, moveBlock } from './extensions.ts'
import styles from './letters.module.css'
import { storePicture } from '../../parts/storeFile.ts'

/** Most buttons lead to the booking; its words are chosen, to be typed over. */
const freshButton: JSONContent = {
  type: 'button',
  attrs: { link: linkToField('link.booking') },
  content: [{ type: 'text', text: 'See or change the booking' }],
}

function AddMenu({ editor, onProblem }: { editor: Editor; onProblem: (sentence: string) => void }) {
  const { passages } = useEditing()
  const file = useRef<HTMLInputElement>(null)
  const add = (content: JSONContent) => addBlock(editor, content)
  const addPicture = (chosen: File) =>
    storePicture(chosen).then(
      (pictureId) => add({ type: 'picture', attrs: { pictureId } }),
      (fault: unknown) => onProblem(fault instanceof Error ? fault.message : String(fault)),
    )
  const column = { type: 'column', content: [{ type: 'paragraph' }] }
  return (
    <>
      <Menu position="bottom-start" returnFocus={false}>
        <Menu.Target>
          <Button variant="default" size="compact-sm">
            Add…
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => add({ type: 'heading', attrs: { level: 2 } })}>Heading</Menu.Item>
          <Menu.Item onClick={() => add({ type: 'facts' })}>Booking facts</Menu.Item>
          <Menu.Item onClick={() => add(freshButton)}>Button</Menu.Item>
          <Menu.Item onClick={() => file.current?.click()}>Picture…</Menu.Item>
          <Menu.Item onClick={() => add({ type: 'columns', content: [column, column] })}>
            Two columns
          </Menu.Item>
          <Menu.Item onClick={() => add({ type: 'divider' })}>Divider</Menu.Item>
          <Menu.Item onClick={() => add({ type: 'signature' })}>Signature</Menu.Item>
          {passages.length > 0 && <Menu.Label>Passages</Menu.Label>}
          {passages.map(({ id, name }) => (
            <Menu.Item key={id} onClick={() => add({ type: 'passage', attrs: { passageId: id } })}>
              {name}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
      <HiddenFileInput
        label="Picture"
        input={file}
        accept="image/png,image/jpeg,image/gif"
        onFile={addPicture}
      />
    </>
  )
}

/** The kind of block the cursor is in, or that is chosen. */
function nameOfBlock({ state }: Editor): string {
  return state.doc.maybeChild(state.selection.$from.index(0))?.type.name ?? 'paragraph'
}

function Tools({ editor, onAskField, onProblem }: ToolsProps) {
  return (
    <RichTextEditor.Toolbar className={styles.tools ?? ''}>
      <RichTextEditor.ControlsGroup>
        <RichTextEditor.Bold />
        <RichTextEditor.Italic />
        <RichTextEditor.Link />
        <RichTextEditor.Unlink />
      </RichTextEditor.ControlsGroup>
      <RichTextEditor.ControlsGroup>
        <RichTextEditor.Undo />
        <RichTextEditor.Redo />
      </RichTextEditor.ControlsGroup>
      <Button variant="default" size="compact-sm" onClick={onAskField}>
        Field… Ctrl+.
      </Button>
      <AddMenu editor={editor} onProblem={onProblem} />
      <Button variant="subtle" size="compact-sm" title="Alt+Up" onClick={() => moveBlock(editor, -1)}>
        Move up
      </Button>
      <Button variant="subtle" size="compact-sm" title="Alt+Down" onClick={() => moveBlock(editor, 1)}>
        Move down
      </Button>
      <Button
        variant="subtle"
        size="compact-sm"
        onClick={() => {
          const name = nameOfBlock(editor)
          const is = editor.getAttributes(name)['isAdvertising'] === true
          editor.chain().focus().updateAttributes(name, { isAdvertising: !is }).run()
        }}
      >
        Advertising
      </Button>
    </RichTextEditor.Toolbar>
  )
}

interface ToolsProps {
  readonly editor: Editor
  readonly onAskField: () => void
  readonly onProblem: (sentence: string) => void
}

interface BodyEditorProps {
  readonly initial: readonly Section[]
  readonly onChange: (sections: Section[]) => void
}

/** The body of a letter: words, fields that cannot be broken, and blocks that are moved as a whole. */
export function BodyEditor({ initial, onChange }: BodyEditorProps) {
  const asked = useAskedField()
  const [problem, setProblem] = useState<string | null>(null)
  const editor = useEditor({
    extensions: bodyExtensions(asked.ask),
    content: documentOf(initial),
    editorProps: { attributes: { role: 'textbox', 'aria-multiline': 'true', 'aria-label': 'The letter' } },
    onUpdate: ({ editor: present }) => onChange(sectionsOf(present.getJSON())),
  })
  return (
    <div className={styles.body}>
      <RichTextEditor editor={editor}>
        <Tools editor={editor} onAskField={asked.ask} onProblem={setProblem} />
        {problem !== null && (
          <p role="alert" className={styles.alert}>
            {problem}
          </p>
        )}
        {asked.isAsking && (
          <div className={styles.picker}>
            <AskedField editor={editor} asked={asked} />
          </div>
        )}
        <RichTextEditor.Content />
      </RichTextEditor>
    </div>
  )
}
