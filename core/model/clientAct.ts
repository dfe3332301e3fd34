import { z } from 'zod'

/** What a client can do by a link of its own in a message, and the page of a booking that it leads to. */
export const clientActPaths = {
  confirm: 'confirm',
  calendar: 'appointment.ics',
  move: 'move',
  cancel: 'cancel',
  again: 'again',
} as const
export type ClientAct = keyof typeof clientActPaths
export const clientActs = Object.keys(clientActPaths) as readonly ClientAct[]

/** Where each act leads; empty where there is no booking. */
export const actUrls = z.object({
  confirm: z.string(),
  calendar: z.string(),
  move: z.string(),
  cancel: z.string(),
  again: z.string(),
} satisfies Record<ClientAct, z.ZodString>)
export type ActUrls = z.infer<typeof actUrls>

/** The address of each act, made one by one. */
export const actUrlsBy = (urlOf: (act: ClientAct) => string): ActUrls => ({
  confirm: urlOf('confirm'),
  calendar: urlOf('calendar'),
  move: urlOf('move'),
  cancel: urlOf('cancel'),
  again: urlOf('again'),
})
