import { isStatusByHand } from '../model/inHouse.ts'
import type { MovePart } from '../model/onePressMove.ts'

/** What is changed within the house, by a step or by a part of a one-press move, in a few words for lists. */
export function inHouseWords(part: MovePart): string {
  switch (part.kind) {
    case 'task':
      return `Task: ${part.title}`
    case 'tag':
      return part.adds ? `Add the tag “${part.tag}”` : `Take off the tag “${part.tag}”`
    case 'stage':
      return `Move to the stage “${part.stage}”`
    case 'status':
      return `Make the booking ${isStatusByHand(part.status) ? part.status : `“${part.status}”`}`
    case 'date stamp':
      return `Stamp the date “${part.label}”`
    case 'field':
      return part.value === '' ? `Empty the field “${part.field}”` : `Field “${part.field}”: ${part.value}`
  }
}
