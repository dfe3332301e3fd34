import { Select } from '@mantine/core'
import { useEffect, useRef } from 'react'
import { fieldList } from '#core/letters/fieldList.ts'
import { fieldNames, type FieldName } from '#core/model/letter.ts'
import { useEditing, valueFor } from './editing.ts'
import styles from './letters.module.css'

const groups = [...new Set(fieldNames.map((name) => fieldList[name].group))].map((group) => ({
  group,
  items: fieldNames
    .filter((name) => fieldList[name].group === group)
    .map((name) => ({ value: name, label: fieldList[name].label })),
}))

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
  const input = useRef<HTMLInputElement>(null)
  useEffect(() => input.current?.focus(), [])
  return (
    <Select
      ref={input}
      label="Which field?"
      placeholder="Type a part of its name"
      searchable
      selectFirstOptionOnChange
      onDropdownClose={onClose}
      defaultDropdownOpened
      data={groups}
      maxDropdownHeight={320}
      nothingFoundMessage="No field of that name"
      renderOption={({ option }) => {
        const value = valueFor(option.value, editing)
        return (
          <span className={styles.fieldOption}>
            <span>{option.label}</span>
            <span className={styles.fieldValue}>{value === '' ? 'missing here' : value}</span>
          </span>
        )
      }}
      onChange={(value) => {
        const chosen = fieldNames.find((name) => name === value)
        if (chosen) onChoose(chosen)
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return
        event.stopPropagation()
        onLeave()
      }}
    />
  )
}
