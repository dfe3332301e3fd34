import type { IncomingView } from '#core/api/incomingEndpoints.ts'
import styles from './CameIn.module.css'

type Mark = NonNullable<IncomingView['read']>['marks'][number]

/** A text in pieces, those within a mark told from the others; marks that overlap count once. */
function piecesOf(text: string, marks: readonly Mark[]) {
  const sorted = marks.toSorted((one, other) => one.from - other.from)
  const pieces: { readonly words: string; readonly isMarked: boolean; readonly at: number }[] = []
  let at = 0
  for (const { from, to } of sorted) {
    if (from < at) continue
    if (from > at) pieces.push({ words: text.slice(at, from), isMarked: false, at })
    pieces.push({ words: text.slice(from, to), isMarked: true, at: from })
    at = to
  }
  return [...pieces, { words: text.slice(at), isMarked: false, at }].filter(({ words }) => words !== '')
}

/** What somebody wrote, with the words marked from which a proposal was made. */
export function MarkedWords({ text, marks }: { text: string; marks: readonly Mark[] }) {
  return (
    <p className={styles.words}>
      {piecesOf(text, marks).map(({ words, isMarked, at }) =>
        isMarked ? <mark key={at}>{words}</mark> : <span key={at}>{words}</span>,
      )}
    </p>
  )
}
