import { Select } from '@mantine/core'
import { useEffect, useMemo, useRef } from 'react'
import type { SettingsView } from '#core/api/views.ts'
import { fieldInfo, fieldList } from '#core/letters/fieldList.ts'
import { ownFieldWords } from '#core/forms/ownFields.ts'
import { fieldName, fieldNames, ownField, signField, type FieldName } from '#core/model/letter.ts'
import { useAsk } from '../../app/queries.ts'
import { useEditing, valueFor } from './editing.ts'
import styles from './letters.module.css'

const groups = [...new Set(fieldNames.map((name) => fieldList[name].group))].map((group) => ({
  group,
  items: fieldNames
    .filter((name) => fieldList[name].group === group)
    .map((name) => ({ value: name, label: fieldList[name].label })),
}))

/** The fields every business has, then those of its own. */
function groupsWith(data: SettingsView | undefined) {
  if (!data) return groups
  const own = ownFieldWords(data).map((label) => ({ value: ownField(label), label }))
  const toSign = data.documents
    .filter(({ isActive }) => isActive)
    .map(({ name }) => ({ value: signField(name), label: fieldInfo(signField(name)).label }))
  const more = [
    { group: 'Own fields', items: own },
    { group: 'Documents', items: toSign },
  ]
  return [...groups, ...more.filter(({ items }) => items.length > 0)]
}

/** Chooses a merge field: by its name, with the real value beside it. Enter takes the first match, Escape leaves it without one. */
export function FieldPicker({
  onChoose,
  onLeave,
  onClose,
}: {
  onChoose: (field: FieldName) => void
  onLeave: () => void
  onClose: () => void
}) {
  const editing = useEditing()
  const { data, isPending } = useAsk('settings')
  // The same list while it is open: another one would forget what is typed.
  const offered = useMemo(() => groupsWith(data), [data])
  const input = useRef<HTMLInputElement>(null)
  useEffect(() => input.current?.focus(), [isPending])
  return isPending ? null : (
    <Select
      ref={input}
      label="Which field?"
      placeholder="Type a part of its name"
      searchable
      selectFirstOptionOnChange
      onDropdownClose={onClose}
      defaultDropdownOpened
      data={offered}
      maxDropdownHeight={320}
      nothingFoundMessage="No field of that name"
      renderOption={({ option }) => {
        const named = fieldName.safeParse(option.value)
        const value = named.success ? valueFor(named.data, editing) : ''
        return (
          <span className={styles.fieldOption}>
            <span>{option.label}</span>
            <span className={styles.fieldValue}>{value === '' ? 'missing here' : value}</span>
          </span>
        )
      }}
      onChange={(value) => {
        const chosen = fieldName.safeParse(value)
        if (chosen.success) onChoose(chosen.data)
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return
        event.stopPropagation()
        onLeave()
      }}
    />
  )
}
