import { Button } from '@mantine/core'
import type { OfferedMove, PressedView } from '#core/api/moveViews.ts'
import { useAsk, useTell } from '../app/queries.ts'
import { ConsideredAct } from './ConsideredAct.tsx'
import styles from './OnePress.module.css'
import { Problem } from './Problem.tsx'
import table from './timetable.module.css'
import { When } from './When.tsx'

/** What a move is pressed on, as it was seen. */
export interface PressedOn {
  readonly id: string
  readonly revision: number
}

/** What is said of something that is pressed on several: how many of those. */
const onHowMany = (count: number, of: OfferedMove['of']) =>
  count === 1 ? '' : ` on ${count} ${of === 'booking' ? 'bookings' : 'enquiries'}`

/** At most so many are asked about at once. */
const mostAtOnce = 200
const none: readonly OfferedMove[] = []

/** The moves that make sense for at least one of what is chosen, each with those it makes sense for. */
export function useMovesOffered(ids: readonly string[]): readonly OfferedMove[] {
  const asked = ids.toSorted().slice(0, mostAtOnce).join(',')
  const { data } = useAsk('movesOffered', { query: { ids: asked } }, { enabled: asked !== '' })
  return asked === '' ? none : (data?.moves ?? none)
}

interface OfferedMovesProps {
  readonly moves: readonly OfferedMove[]
  readonly onPress: (move: OfferedMove) => void
}

/** The moves that make sense at this moment, each as a sentence with what it does. */
export function OfferedMoves({ moves, onPress }: OfferedMovesProps) {
  if (moves.length === 0) return null
  return (
    <ul className={styles.moves} aria-label="In one press">
      {moves.map((move) => (
        <li key={move.id}>
          <Button size="compact-md" variant="light" onClick={() => onPress(move)}>
            {move.name}…
          </Button>
          <span className={table.quiet}>{move.does.join(' · ')}</span>
        </li>
      ))}
    </ul>
  )
}

interface PressMoveProps {
  readonly move: OfferedMove
  readonly on: readonly PressedOn[]
  readonly onClose: () => void
  readonly onDone: (words: string) => void
}

/** A move before it is pressed: what it does, what the client gets, then one press for all of it. */
export function PressMove({ move, on, onClose, onDone }: PressMoveProps) {
  const title = `${move.name}${onHowMany(on.length, move.of)}`
  return (
    <div className={table.form} role="group" aria-label={title}>
      <h2>{title}</h2>
      <p className={table.quiet}>All of it is done, or nothing:</p>
      <ul className={styles.does}>
        {move.does.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      <ConsideredAct
        name="pressMove"
        asked={{
          parameters: { id: move.id },
          body: { on: on.map(({ id, revision }) => ({ id, revision })) },
        }}
        word={move.name}
        leave="Leave it"
        onClose={onClose}
        onDone={({ done }) => onDone(`${move.name}${onHowMany(done, move.of)}: done.`)}
      />
    </div>
  )
}

/** What the move that was pressed last has done, and the way back while nothing of it has gone. */
export function PressedReport({ pressed }: { pressed: PressedView | null }) {
  const back = useTell('takeMoveBack')
  if (!pressed) return null
  const { id, name, at, personName, said, whyNot } = pressed
  return (
    <section className={styles.report} aria-label={`What “${name}” did`}>
      <p>
        ✓ <b>{name}</b>, pressed by {personName ?? 'somebody who has left'} on <When at={at} />
      </p>
      {said.length > 0 && <p className={table.quiet}>{said.join(' ')}</p>}
      <Problem of={back.error} />
      {whyNot === null ? (
        <div className={table.acts}>
          <Button
            size="compact-md"
            variant="default"
            loading={back.isPending}
            onClick={() => back.mutate({ parameters: { id }, body: {} })}
          >
            Take it back
          </Button>
          <span className={table.quiet}>Nothing of it has gone out yet.</span>
        </div>
      ) : (
        <p className={table.quiet}>{whyNot}</p>
      )}
    </section>
  )
}
