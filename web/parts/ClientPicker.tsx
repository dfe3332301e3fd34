import { Select, type SelectProps } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { useState } from 'react'
import { folded } from '#core/model/folded.ts'
import { useAsk } from '../app/queries.ts'

/** How soon after the last key it is looked for, in milliseconds, and how many are offered. */
const afterMs = 120
const most = 20

type PickerProps = Omit<SelectProps, 'data' | 'value' | 'onChange' | 'searchable' | 'searchValue'> & {
  readonly value: string | null
  readonly onChange: (clientId: string | null) => void
}

/** A client, looked for on the server while one types. */
export function ClientPicker({ value, onChange, ...field }: PickerProps) {
  const [words, setWords] = useState('')
  const chosen = useAsk('clientName', { parameters: { id: value ?? '' } }, { enabled: value !== null }).data
  // The name of the one chosen stands in the field: that is nothing to look for.
  const wanted = value !== null && words === chosen?.name ? '' : words.trim()
  const [settled] = useDebouncedValue(wanted, afterMs)
  const found = useAsk(
    'clients',
    { query: { words: settled, limit: most } },
    { placeholderData: (before) => before },
  )
  const lines = found.data?.lines ?? []
  const isNamedTwice = (name: string) => lines.filter((line) => line.name === name).length > 1
  // Until the server has answered, those that are there and fit: what is pressed meanwhile stays where it is.
  const isLooking = found.isFetching || settled !== wanted
  const fits = ({ name, email }: (typeof lines)[number]) =>
    !isLooking || folded(`${name} ${email ?? ''}`).includes(folded(wanted))
  const others = lines.filter((line) => line.id !== value && fits(line))
  const here = value !== null && chosen ? [{ value, label: chosen.name }] : []
  return (
    <Select
      {...field}
      searchable
      searchValue={words}
      onSearchChange={setWords}
      nothingFoundMessage={isLooking ? 'Looking …' : 'No client of that name'}
      filter={({ options }) => options}
      data={[
        ...here,
        ...others.map(({ id, name, email }) => ({
          value: id,
          label: isNamedTwice(name) ? `${name} · ${email ?? 'no address'}` : name,
        })),
      ]}
      value={value}
      onChange={onChange}
    />
  )
}
