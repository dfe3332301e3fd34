import { Button, Checkbox, Group, Select, Textarea, TextInput } from '@mantine/core'
import { newCommandId } from '../../app/api.ts'
import type { QuestionDraft } from './serviceDraft.ts'
import styles from './setup.module.css'

const kinds: { value: QuestionDraft['kind']; label: string }[] = [
  { value: 'line', label: 'one line' },
  { value: 'text', label: 'several lines' },
  { value: 'yes or no', label: 'yes or no' },
  { value: 'choice', label: 'one of several' },
]

const kindOf = (value: string | null) => kinds.find((one) => one.value === value)?.value ?? 'line'

interface QuestionProps {
  readonly question: QuestionDraft
  readonly number: number
  readonly onChange: (part: Partial<QuestionDraft>) => void
  readonly onRemove: () => void
  readonly faultOf: (name: string) => string | null
}

function Question({ question, number, onChange, onRemove, faultOf }: QuestionProps) {
  const { kind, label, isRequired, options } = question
  return (
    <fieldset className={styles.departure}>
      <legend>Question {number}</legend>
      <Group align="start" gap="sm">
        <TextInput
          label="Words"
          w="20rem"
          value={label}
          error={faultOf('label')}
          onChange={(event) => onChange({ label: event.currentTarget.value })}
        />
        <Select
          label="Answer"
          w="10rem"
          allowDeselect={false}
          data={kinds}
          value={kind}
          onChange={(next) => onChange({ kind: kindOf(next) })}
        />
      </Group>
      {kind === 'choice' && (
        <Textarea
          label="Options, one a line"
          autosize
          minRows={2}
          value={options}
          error={faultOf('options')}
          onChange={(event) => onChange({ options: event.currentTarget.value })}
        />
      )}
      <Group>
        <Checkbox
          size="md"
          label="Has to be answered"
          checked={isRequired}
          onChange={(event) => onChange({ isRequired: event.currentTarget.checked })}
        />
        <Button size="compact-sm" variant="subtle" onClick={onRemove}>
          Remove question {number}
        </Button>
      </Group>
    </fieldset>
  )
}

interface QuestionsProps {
  readonly questions: readonly QuestionDraft[]
  readonly onChange: (questions: QuestionDraft[]) => void
  readonly faultOf: (path: string) => string | null
}

/** What clients are asked when they book. */
export function Questions({ questions, onChange, faultOf }: QuestionsProps) {
  const add = () =>
    onChange([
      ...questions,
      { id: `qu_${newCommandId()}`, kind: 'line', label: '', isRequired: false, options: '' },
    ])
  return (
    <div className={styles.departures}>
      {questions.map((question, index) => (
        <Question
          key={question.id}
          question={question}
          number={index + 1}
          onChange={(part) =>
            onChange(questions.map((one, at) => (at === index ? { ...one, ...part } : one)))
          }
          onRemove={() => onChange(questions.filter((_, at) => at !== index))}
          faultOf={(name) => faultOf(`questions.${index}.${name}`)}
        />
      ))}
      <div>
        <Button variant="default" onClick={add}>
          Add a question
        </Button>
      </div>
    </div>
  )
}
