import { Checkbox, Select, TextInput } from '@mantine/core'
import { moments, type LetterContent } from '#core/model/letter.ts'
import styles from './letters.module.css'

export type SetPart = (part: Partial<LetterContent>) => void

interface ChoiceProps<Value extends string> {
  readonly label: string
  readonly value: Value
  readonly choices: readonly { readonly value: Value; readonly label: string }[]
  readonly onChoose: (value: Value) => void
}

/** One of a few words. */
function Choice<Value extends string>({ label, value, choices, onChoose }: ChoiceProps<Value>) {
  return (
    <Select
      label={label}
      allowDeselect={false}
      data={[...choices]}
      value={value}
      onChange={(chosen) => {
        const found = choices.find((one) => one.value === chosen)
        if (found) onChoose(found.value)
      }}
    />
  )
}

const kinds = [
  { value: 'service', label: 'service' },
  { value: 'promotional', label: 'promotional' },
] as const
const languages = [
  { value: 'en', label: 'English' },
  { value: 'de', label: 'German' },
] as const
const letterheads = [
  { value: 'none', label: 'none' },
  { value: 'business', label: 'standard' },
] as const
const momentChoices = moments.map((value) => ({ value, label: value }))

/** What a letter is, apart from its words. */
export function Settings({ content, set }: { content: LetterContent; set: SetPart }) {
  return (
    <div className={styles.settings}>
      <TextInput
        label="Internal name"
        value={content.name}
        maxLength={120}
        error={content.name.trim() === '' ? 'A letter needs a name.' : null}
        onChange={(event) => set({ name: event.currentTarget.value })}
      />
      <Choice
        label="Moment"
        value={content.moment}
        choices={momentChoices}
        onChoose={(moment) => set({ moment })}
      />
      <Choice label="Kind" value={content.class} choices={kinds} onChoose={(kind) => set({ class: kind })} />
      <Choice
        label="Language"
        value={content.language}
        choices={languages}
        onChoose={(language) => set({ language })}
      />
      <Choice
        label="Letterhead"
        value={content.letterhead}
        choices={letterheads}
        onChoose={(letterhead) => set({ letterhead })}
      />
      <Checkbox
        label="Do not notice who opens it or follows its links"
        style={{ gridColumn: '1 / -1' }}
        checked={content.isUnnoticed}
        onChange={(event) => set({ isUnnoticed: event.currentTarget.checked })}
      />
    </div>
  )
}
