import { z } from 'zod'

/** What a made-up client of the post office that came with it can do with a message. */
export const clientReactions = [
  'answer',
  'automatic reply',
  'no such mailbox',
  'mailbox full',
  'complaint',
  'decline',
] as const
export const clientReaction = z.enum(clientReactions)
export type ClientReaction = z.infer<typeof clientReaction>
