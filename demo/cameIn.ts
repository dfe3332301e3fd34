import { instantOfLocal } from '#core/time/localText.ts'
import type { Script } from '#server/engine/loop/pump.ts'
import { linkOfToken } from '#server/engine/noticing/noticedMessage.ts'
import type { RunningApplication } from '#server/engine/runningApplication.ts'
import { handIn } from '#server/engine/incoming/handIn.ts'
import { readMail } from '#server/standins/mailboxes.ts'
import type { PostOfficeFile, StoredMail } from '#server/standins/postOffice/file.ts'
import { reactionTo, type ReactionMail } from '#server/standins/postOffice/reactions.ts'
import type { ClientReaction } from '#core/model/clientReaction.ts'
import { businessZone } from './business.ts'
import { clients } from './clients.ts'

/** What a made-up client did with the last message in which it can be done, and when on the clock of the business. */
export interface DemoReaction {
  readonly client: keyof typeof clients
  readonly at: string
  readonly does: ClientReaction | 'follow a link'
  readonly text?: string
}

/** What clients do when the demo has begun and its clock comes past it, in the order it is. */
const laterReactions: readonly DemoReaction[] = [
  { client: 'nightingale', at: '2026-05-18T12:20', does: 'follow a link' },
  {
    client: 'sommerfeld',
    at: '2026-05-18T20:10',
    does: 'automatic reply',
    text: 'I am away until 2 June and read no mail until then.',
  },
  {
    client: 'nightingale',
    at: '2026-05-19T09:10',
    does: 'answer',
    text: 'What a morning, thank you! We would like to come again in autumn. Please call me on Friday.',
  },
  { client: 'estevao', at: '2026-05-21T16:40', does: 'no such mailbox' },
]

/** What clients wrote back, what came back by itself, and what they followed, in the order it was. */
export const reactions: readonly DemoReaction[] = [
  { client: 'castellan', at: '2026-01-21T12:40', does: 'follow a link' },
  { client: 'brannagh', at: '2026-01-25T17:20', does: 'complaint' },
  {
    client: 'fairweather',
    at: '2026-03-27T10:10',
    does: 'automatic reply',
    text: 'I am travelling and back on 2 April. Your message waits for me until then.',
  },
  { client: 'gallagher', at: '2026-03-29T15:40', does: 'mailbox full' },
  { client: 'kronenberg', at: '2026-03-31T10:30', does: 'follow a link' },
  { client: 'hollister', at: '2026-04-02T09:50', does: 'follow a link' },
  {
    client: 'kronenberg',
    at: '2026-04-03T11:20',
    does: 'answer',
    text: 'It was wonderful, thank you! The children still talk of nothing else.',
  },
  { client: 'inselmann', at: '2026-04-14T08:50', does: 'decline' },
  {
    client: 'hollister',
    at: '2026-04-17T12:10',
    does: 'answer',
    text: 'A morning we will not forget. Many thanks to all of you.',
  },
  { client: 'gallagher', at: '2026-04-25T11:30', does: 'follow a link' },
]

const mailboxOf = (client: keyof typeof clients) =>
  (clients[client]?.contacts ?? []).flatMap(({ email }) => email ?? [])[0] ?? ''

/** Follows the first link of the last message that has one. */
async function follow(
  { application, visits }: RunningApplication,
  file: PostOfficeFile,
  mails: readonly StoredMail[],
): Promise<boolean> {
  for (const { id } of mails) {
    const tokens = ((await readMail(file, id))?.links ?? []).flatMap(
      ({ url }) => /\/to\/([^/]+)$/.exec(url)?.[1] ?? [],
    )
    const link = linkOfToken(tokens[0] ?? '', application.store.keys)
    if (!link) continue
    visits.note({ ...link, isHead: false })
    await visits.settled()
    return true
  }
  return false
}

async function written(
  mails: readonly StoredMail[],
  does: ClientReaction,
  text: string,
  at: number,
): Promise<ReactionMail | null> {
  for (const mail of mails) {
    const made = await reactionTo(mail, does, text, at)
    if (made) return made
  }
  return null
}

/** Lets a made-up client do what they do; false: there is no message with which it can be done. */
async function reacted(
  running: RunningApplication,
  { client, does, text = '' }: DemoReaction,
): Promise<boolean> {
  const { application, postOffice: file } = running
  if (!file) return false
  const mails = file.mailOf(mailboxOf(client))
  if (does === 'follow a link') return follow(running, file, mails)
  const mail = await written(mails, does, text, application.clock.now())
  return mail !== null && handIn(running, mail)
}

/** Lets a made-up client do what they did. */
export async function react(running: RunningApplication, reaction: DemoReaction) {
  if (await reacted(running, reaction)) return
  throw new Error(`The demo’s data does not play: ${reaction.client} cannot ${reaction.does}.`)
}

/** What made-up clients do as the demo’s clock moves; what cannot be done any more, as somebody has changed its story, is not. */
export function laterScript(running: RunningApplication): Script {
  const moments = laterReactions.map((reaction) => ({
    at: instantOfLocal(businessZone, reaction.at),
    play: async () => {
      await reacted(running, reaction)
    },
  }))
  return { nextAfter: (moment) => moments.find(({ at }) => at > moment) ?? null }
}
