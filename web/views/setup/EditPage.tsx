import type { ReactNode } from 'react'
import { Link, useParams } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { useAsk } from '../../app/queries.ts'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import { SetUpPage } from '../../parts/SetUpPage.tsx'

interface EditPageProps<Item> {
  /** What is edited, such as `service`. */
  readonly what: string
  readonly itemsOf: (settings: SettingsView) => readonly Item[]
  /** Null: a new one. */
  readonly children: (item: Item | null, settings: SettingsView) => ReactNode
}

/** One thing of Set-up, to be changed, by the id in the address; `new`: a new one. */
export function EditPage<Item extends { readonly id: string; readonly name: string }>({
  what,
  itemsOf,
  children,
}: EditPageProps<Item>) {
  const { id = '' } = useParams()
  const settings = useAsk('settings')
  if (settings.error) return <ErrorState problem={settings.error} onAgain={() => void settings.refetch()} />
  if (!settings.data) return <Waiting />
  const item = itemsOf(settings.data).find((one) => one.id === id) ?? null
  if (!item && id !== 'new') {
    return (
      <EmptyState title={`There is no such ${what}.`}>
        <p>
          <Link to="/set-up">To Set-up</Link>
        </p>
      </EmptyState>
    )
  }
  return <SetUpPage title={item?.name ?? `New ${what}`}>{children(item, settings.data)}</SetUpPage>
}
