import { z } from 'zod'

/** Groups of the Desk whose entries are messages that do not wait for a person. */
export const deskMessageGroup = z.enum(['trouble', 'went-out', 'still-today'])
export type DeskMessageGroup = z.infer<typeof deskMessageGroup>

export const deskGroup = z.enum(['decide', 'to-do', ...deskMessageGroup.options])
export type DeskGroup = z.infer<typeof deskGroup>
