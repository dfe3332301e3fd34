import { Spotlight, spotlight } from '@mantine/spotlight'
import { useDebouncedValue } from '@mantine/hooks'
import { useEffect, useState, type KeyboardEvent } from 'react'
import { useNavigate } from 'react-router'
import type { FoundLine } from '#core/api/views.ts'
import { sections } from './sections.ts'
import { useAsk } from './queries.ts'

const placeOf: Readonly<Record<FoundLine['kind'], string>> = {
  client: '/client/',
  booking: '/booking/',
  enquiry: '/enquiry/',
  letter: '/letter/',
  sequence: '/sequence/',
}

/** How soon after the last key it is looked for, in milliseconds. */
const afterMs = 120

/** Enter takes what is highlighted; where the list has changed since, the first of it. */
function takeFirst({ key, currentTarget }: KeyboardEvent<HTMLInputElement>) {
  const list = currentTarget.closest('[role="dialog"]')
  if (key !== 'Enter' || list?.querySelector('[data-selected]')) return
  list?.querySelector<HTMLElement>('[data-action]')?.click()
}

/** Goes to any client, booking, letter, sequence or section. It opens each time `asked` has grown. */
export default function FindDialog({ asked }: { asked: number }) {
  useEffect(() => spotlight.open(), [asked])
  const navigate = useNavigate()
  const [text, setText] = useState('')
  const [settled] = useDebouncedValue(text.trim(), afterMs)
  const found = useAsk('find', { query: { text: settled } }, { enabled: settled !== '' })
  const wanted = text.trim().toLocaleLowerCase()
  const places = sections.filter(({ word }) => word.toLocaleLowerCase().includes(wanted))
  // What was found for other words is not offered: Enter would go there.
  const lines = settled === '' || settled !== text.trim() ? [] : (found.data?.found ?? [])
  return (
    <Spotlight.Root
      query={text}
      onQueryChange={setText}
      shortcut={null}
      scrollable
      maxHeight="60vh"
      overlayProps={{ blur: 0, backgroundOpacity: 0.3 }}
    >
      <Spotlight.Search
        placeholder="Name, address, date or section"
        aria-label="Find"
        onKeyDown={takeFirst}
      />
      <Spotlight.ActionsList>
        {lines.map(({ kind, id, title, words }) => (
          <Spotlight.Action
            key={id}
            label={title}
            description={`${kind}${words === '' ? '' : ` · ${words}`}`}
            onClick={() => void navigate(`${placeOf[kind]}${id}`)}
          />
        ))}
        {places.map(({ to, word }) => (
          <Spotlight.Action key={to} label={word} description="section" onClick={() => void navigate(to)} />
        ))}
        {lines.length + places.length === 0 && (
          <Spotlight.Empty>
            {found.isFetching || settled !== text.trim()
              ? 'Looking …'
              : 'Nothing of that name, address or date.'}
          </Spotlight.Empty>
        )}
      </Spotlight.ActionsList>
    </Spotlight.Root>
  )
}
