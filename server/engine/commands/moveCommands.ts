import { pressMove, pressOnMany, takeMoveBack, type SeenSubject } from '#core/engine/commands/moveCommands.ts'
import { putMove, removeMove, type MoveChange } from '#core/engine/commands/moveSettings.ts'
import { subjectIdOf, type OnePressMove } from '#core/model/onePressMove.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import { readBooking, readEnquiry } from '../../db/clientStore.ts'
import { focusOn } from '../../db/livingStore.ts'
import { readPressedMove } from '../../db/moveStore.ts'
import type { Application, CommandCall } from '../application.ts'
import { usesOfMove } from '../uses.ts'
import { onClient, type Changed } from './onClient.ts'
import { decideTogether, manyDecided, type ManyAnswer } from './together.ts'

/** The booking or enquiry of an id. */
const readSubject = ({ store: { statements } }: Application, of: OnePressMove['of'], id: string) =>
  of === 'booking' ? readBooking(statements, id) : readEnquiry(statements, id)

const missing: Readonly<Record<OnePressMove['of'], string>> = {
  booking: 'There is no such booking.',
  enquiry: 'There is no such enquiry.',
}

/** One alone is refused with the reason, of many those that it makes no sense for stay as they are. */
const pressing =
  (application: Application) =>
  (call: CommandCall, moveId: string, on: readonly SeenSubject[]): Result<ManyAnswer> =>
    application.command(call, (context, settings) => {
      const move = settings.onePressMoves.find(({ id }) => id === moveId)
      if (!move) return refused('not found', 'There is no such move any more.')
      const seen = new Map(on.map((one) => [one.id, one]))
      const items = [...seen.keys()].map((id) => ({ id, item: readSubject(application, move.of, id) }))
      const [only] = items
      const asked = only && seen.get(only.id)
      if (items.length === 1 && only && asked) {
        return onClient(
          application,
          only.item?.clientId,
          focusOn(only.id),
          missing[move.of],
          (slice) => pressMove(slice, move, asked, context),
          (): ManyAnswer => ({ done: 1, refused: [] }),
        )
      }
      const together = decideTogether(application, items, {
        clientOf: ({ clientId }) => clientId,
        reading: (own) => focusOn(...own.map(({ id }) => id)),
        decide: (slice, own) =>
          pressOnMany(
            slice,
            move,
            own.flatMap(({ id }) => seen.get(id) ?? []),
            context,
          ),
        missing: missing[move.of],
      })
      return done(manyDecided(items.length, together))
    })

/** Moves of one press: put together, pressed, taken back. */
export function createMoveCommands(application: Application) {
  const { statements } = application.store
  return {
    putMove: (call: CommandCall, change: MoveChange): Result<Changed> =>
      application.command(call, (context, settings) => {
        const put = putMove(settings, change, usesOfMove(application, change.id), context)
        if (!put.ok) return put
        const [first] = put.value
        const { id = '', revision = 0 } = first?.kind === 'put one-press move' ? first.move : {}
        return done({ effects: put.value, answer: { id, revision } })
      }),
    removeMove: (call: CommandCall, id: string) =>
      application.command(call, (context, settings) => {
        const decided = removeMove(settings, id, usesOfMove(application, id), context)
        return decided.ok ? done({ effects: decided.value, answer: { id } }) : decided
      }),
    pressMove: pressing(application),
    takeMoveBack: (call: CommandCall, id: string): Result<{ id: string }> =>
      application.command(call, (context) => {
        const pressed = readPressedMove(statements, id)
        if (!pressed) return refused('not allowed now', 'This was taken back already.')
        const subjectId = subjectIdOf(pressed)
        return onClient(
          application,
          readSubject(application, pressed.was.of, subjectId)?.clientId,
          focusOn(subjectId, ...pressed.invoiceIds),
          missing[pressed.was.of],
          (slice) => takeMoveBack(slice, pressed, context),
          () => ({ id }),
        )
      }),
  }
}
