import {
  onePressMove,
  pressedMove,
  subjectIdOf,
  type OnePressMove,
  type PressedMove,
} from '#core/model/onePressMove.ts'
import { asJson, fromJson, kept } from './columns.ts'
import type { Statements } from './statements.ts'
import { readRows } from './unreadable.ts'

export const readOnePressMoves = (statements: Statements): OnePressMove[] =>
  readRows(statements, 'one-press move', statements.all('allOnePressMoves'), ({ moveJson }) =>
    onePressMove.parse(fromJson(moveJson)),
  )

export function putOnePressMove(statements: Statements, put: OnePressMove) {
  statements.run('putOnePressMove', { id: put.id, moveJson: asJson(kept(onePressMove, put)) })
}

const asPressed = (row: Readonly<Record<string, unknown>>) => pressedMove.parse(fromJson(row['pressedJson']))

/** What was pressed on a booking or an enquiry and was not taken back, the latest first. */
export const pressedOn = (statements: Statements, subjectId: string): readonly PressedMove[] =>
  readRows(statements, 'pressed move', statements.all('pressedOn', { subjectId }), asPressed)

/** A press that was not taken back; null: there is none. */
export function readPressedMove(statements: Statements, id: string): PressedMove | null {
  const row = statements.one('readPressedMove', { id })
  return row ? asPressed(row) : null
}

export function putPressedMove(statements: Statements, put: PressedMove) {
  const pressedJson = asJson(kept(pressedMove, put))
  statements.run('putPressedMove', { id: put.id, subjectId: subjectIdOf(put), at: put.at, pressedJson })
}
