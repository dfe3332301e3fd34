import { shownUrl } from '#core/incoming/visits.ts'
import type { SendView } from '#core/api/views.ts'
import { When } from './When.tsx'

/** What was asked for of a message beside what the history tells: by programs, and of which it is not told yet whose it was. */
export function Visits({ visits }: { visits: SendView['visits'] }) {
  const beside = visits.filter(({ isPerson }) => isPerson !== true)
  if (beside.length === 0) return null
  return (
    <ul aria-label="Asked for beside">
      {beside.map(({ at, url, isPerson }, index) => (
        <li key={index}>
          <When at={at} /> {url === null ? 'the picture that tells of opening' : shownUrl(url)}{' '}
          {isPerson === null
            ? 'was asked for: not told yet whether by a person'
            : 'was asked for by a program that looks beforehand'}
        </li>
      ))}
    </ul>
  )
}
