import { isSameAddress } from '#core/model/values.ts'
import { handOver } from '../../standins/handOver.ts'
import type { ReactionMail } from '../../standins/postOffice/reactions.ts'
import type { RunningApplication } from '../runningApplication.ts'
import { withoutMark } from './openListener.ts'

/**
 * Hands in what a made-up client wrote: what goes to the mailbox of the post office that is read lies there then; what goes to
 * others is forwarded. Resolves when all that follows from it is written; false: nothing is taken in here.
 */
export async function handIn(
  { incoming, listener, mailboxes, postOfficePort }: RunningApplication,
  { from, to, source }: ReactionMail,
): Promise<boolean> {
  const address = withoutMark(to)
  const isRead = isSameAddress(address, mailboxes.own()?.name ?? '')
  const port = isRead ? postOfficePort() : (listener?.port ?? null)
  if (port === null) return false
  await handOver(port, source, { from, to: isRead ? address : to })
  if (isRead) await mailboxes.look()
  await incoming.settled()
  return true
}
