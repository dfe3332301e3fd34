import { Select } from '@mantine/core'
import { ClientPicker } from '../../parts/ClientPicker.tsx'
import { DateField } from '../../parts/DateField.tsx'
import { useAsk } from '../../app/queries.ts'
import styles from './Ahead.module.css'
import { stateFilters, type Choice, type Filters } from './useFilters.ts'

interface Named {
  readonly id: string
  readonly name: string
}

function ChoiceField({ all, choice, word, items }: ChoiceProps) {
  return (
    <Select
      label={word}
      placeholder="all"
      searchable
      clearable
      clearButtonProps={{ 'aria-label': `All: ${word}` }}
      nothingFoundMessage="None of that name"
      data={items.map(({ id, name }) => ({ value: id, label: name }))}
      value={all.filters[choice]}
      onChange={(value) => all.choose(choice, value)}
    />
  )
}

interface ChoiceProps {
  readonly all: Filters
  readonly choice: Choice
  readonly word: string
  readonly items: readonly Named[]
}

/** What the list shows: days, client, service, sequence, letter, state. */
export function FilterFields({ all }: { all: Filters }) {
  const { filters, set } = all
  const settings = useAsk('settings')
  return (
    <div className={styles.filters}>
      <DateField label="From" value={filters.from} onChange={(from) => set({ from })} />
      <DateField label="To" value={filters.to} onChange={(to) => set({ to })} />
      <Select
        label="Messages"
        allowDeselect={false}
        data={Object.entries(stateFilters).map(([value, { word }]) => ({ value, label: word }))}
        value={filters.state}
        onChange={(state) => set({ state })}
      />
      <ClientPicker
        label="Client"
        placeholder="all"
        clearable
        clearButtonProps={{ 'aria-label': 'All: Client' }}
        value={all.filters.clientId}
        onChange={(value) => all.choose('clientId', value)}
      />
      <ChoiceField all={all} choice="serviceId" word="Service" items={settings.data?.services ?? []} />
      <ChoiceField all={all} choice="sequenceId" word="Sequence" items={settings.data?.sequences ?? []} />
      <ChoiceField all={all} choice="letterId" word="Letter" items={settings.data?.letters ?? []} />
    </div>
  )
}
