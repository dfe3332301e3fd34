import type { SendView } from '#core/api/views.ts'
import { When } from './When.tsx'

const whose = (isPerson: boolean | null) =>
  isPerson === null
    ? ', not told yet whether by a person'
    : isPerson
      ? ''
      : ', by a program that looks beforehand'

const shown = (url: string) => url.replace(/^https?:\/\//, '').slice(0, 80)

/** What was asked for of a message, the last first. */
export function Visits({ visits }: { visits: SendView['visits'] }) {
  if (visits.length === 0) return null
  return (
    <ul aria-label="What was opened and followed">
      {visits.map(({ at, url, isPerson }, index) => (
        <li key={index}>
          <When at={at} /> {url === null ? 'opened (uncertain)' : `followed ${shown(url)}`}
          {whose(isPerson)}
        </li>
      ))}
    </ul>
  )
}
