import { Button, Group, Select, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { SettingsView } from '#core/api/views.ts'
import { recipientRule, type RecipientRule } from '#core/model/step.ts'
import { recipientNames } from '#core/sequences/stepWords.ts'

const kinds = Object.keys(recipientNames) as (keyof typeof recipientNames)[]

/** A choice of the list; a person by name is a choice of their own. */
const choiceOf = (rule: RecipientRule) => (rule.to === 'person' ? rule.personId : rule.to)

function choicesFor(rule: RecipientRule, { people }: SettingsView) {
  const named = people.filter(
    ({ id, isActive }) => isActive || (rule.to === 'person' && rule.personId === id),
  )
  return [
    {
      group: 'The client',
      items: choices('primary contact', 'all contacts', 'other contacts', 'who pays', 'who takes part'),
    },
    ...(rule.to === 'named contacts'
      ? [{ group: 'By name', items: [{ value: rule.to, label: 'chosen contacts' }] }]
      : []),
    {
      group: 'The business',
      items: [
        ...choices('person in charge', 'team', 'copy to self'),
        ...named.map(({ id, name }) => ({ value: id, label: name })),
      ],
    },
    { group: 'Somebody else', items: [{ value: 'address', label: 'a further address' }] },
  ]
}

function choices(...of: (keyof typeof recipientNames)[]) {
  return of.map((value) => ({ value, label: recipientNames[value] }))
}

function ruleOf(choice: string, letterId: string | null): RecipientRule | null {
  const kind = kinds.find((one) => one === choice)
  if (kind) return { to: kind, letterId }
  const person = recipientRule.safeParse({ to: 'person', personId: choice, letterId })
  return person.success ? person.data : null
}

interface AddressProps {
  readonly address: string
  readonly onChange: (address: string) => void
}

/** The address of a further recipient: what is no address yet is said, and does not count. */
function AddressField({ address, onChange }: AddressProps) {
  const [typed, setTyped] = useState(address)
  const [isTouched, setTouched] = useState(false)
  const read = recipientRule.safeParse({ to: 'address', name: '', address: typed.trim() })
  return (
    <TextInput
      label="Address"
      type="email"
      w="15rem"
      value={typed}
      error={isTouched && !read.success ? read.error.issues[0]?.message : null}
      onBlur={() => setTouched(true)}
      onChange={({ currentTarget: { value } }) => {
        setTyped(value)
        if (recipientRule.safeParse({ to: 'address', name: '', address: value.trim() }).success)
          onChange(value.trim())
      }}
    />
  )
}

interface RowProps {
  readonly rule: RecipientRule
  readonly settings: SettingsView
  readonly isMail: boolean
  /** Null: nobody in this row any more. */
  readonly onChange: (rule: RecipientRule | null) => void
  readonly canGo: boolean
}

function RecipientRow({ rule, settings, isMail, onChange, canGo }: RowProps) {
  const [isAddressing, setAddressing] = useState(rule.to === 'address')
  const choose = (choice: string | null) => {
    setAddressing(choice === 'address')
    const next = choice === null ? null : ruleOf(choice, rule.letterId)
    if (next) onChange(next)
  }
  return (
    <Group gap="xs" align="start">
      <Select
        label="Who"
        w="13rem"
        allowDeselect={false}
        data={choicesFor(rule, settings)}
        value={isAddressing ? 'address' : choiceOf(rule)}
        onChange={choose}
      />
      {isAddressing && (
        <AddressField
          address={rule.to === 'address' ? rule.address : ''}
          onChange={(address) => onChange({ to: 'address', name: '', address, letterId: rule.letterId })}
        />
      )}
      {isMail && (
        <Select
          label="Letter for them"
          w="14rem"
          clearable
          searchable
          placeholder="the step’s letter"
          data={settings.letters.map(({ id, name }) => ({ value: id, label: name }))}
          value={rule.letterId}
          onChange={(letterId) => onChange({ ...rule, letterId })}
        />
      )}
      {canGo && (
        <Button variant="default" mt="1.6rem" onClick={() => onChange(null)}>
          Remove
        </Button>
      )}
    </Group>
  )
}

interface RecipientsEditorProps {
  readonly recipients: readonly RecipientRule[]
  readonly isMail: boolean
  readonly settings: SettingsView
  readonly onChange: (recipients: readonly RecipientRule[]) => void
}

/** Who gets a message: contacts of the client, colleagues, or a further address; each can have a letter of their own. */
export function RecipientsEditor({ recipients, isMail, settings, onChange }: RecipientsEditorProps) {
  // Rows keep what is typed in them when one above goes.
  const [keys, setKeys] = useState(() => recipients.map(() => crypto.randomUUID()))
  const remove = (index: number) => {
    setKeys(keys.toSpliced(index, 1))
    onChange(recipients.toSpliced(index, 1))
  }
  return (
    <>
      {recipients.map((rule, index) => (
        <RecipientRow
          key={keys[index] ?? index}
          rule={rule}
          settings={settings}
          isMail={isMail}
          canGo={recipients.length > 1}
          onChange={(next) => (next === null ? remove(index) : onChange(recipients.with(index, next)))}
        />
      ))}
      <Group>
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => {
            setKeys([...keys, crypto.randomUUID()])
            onChange([...recipients, { to: 'copy to self', letterId: null }])
          }}
        >
          Somebody else, too
        </Button>
      </Group>
    </>
  )
}
