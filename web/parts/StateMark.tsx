import type { SendState } from '#core/model/sendState.ts'
import styles from './StateMark.module.css'

interface Mark {
  readonly glyph: string
  readonly word: string
  readonly tone: 'ahead' | 'went' | 'quiet' | 'trouble' | 'you'
}

/** Each state by shape and word; the colour only repeats it. */
export const markOf: Readonly<Record<SendState, Mark>> = {
  expected: { glyph: '◌', word: 'expected', tone: 'quiet' },
  waiting: { glyph: '◐', word: 'waits for you', tone: 'you' },
  approved: { glyph: '●', word: 'approved', tone: 'ahead' },
  ready: { glyph: '○', word: 'planned', tone: 'ahead' },
  sending: { glyph: '↗', word: 'being sent', tone: 'ahead' },
  sent: { glyph: '✓', word: 'sent', tone: 'went' },
  skipped: { glyph: '–', word: 'skipped', tone: 'quiet' },
  dropped: { glyph: '–', word: 'dropped', tone: 'quiet' },
  cancelled: { glyph: '–', word: 'cancelled', tone: 'quiet' },
  stale: { glyph: '✕', word: 'stale', tone: 'trouble' },
  missed: { glyph: '✕', word: 'missed', tone: 'trouble' },
  blocked: { glyph: '✕', word: 'blocked', tone: 'trouble' },
  failed: { glyph: '✕', word: 'failed', tone: 'trouble' },
  bounced: { glyph: '✕', word: 'bounced', tone: 'trouble' },
  'in doubt': { glyph: '?', word: 'in doubt', tone: 'trouble' },
}

export function StateMark({ state }: { state: SendState }) {
  const { glyph, word, tone } = markOf[state]
  return (
    <span className={styles.mark} data-tone={tone}>
      <span aria-hidden className={styles.glyph}>
        {glyph}
      </span>
      {word}
    </span>
  )
}
