import type { SendLine } from '#core/api/views.ts'
import table from './timetable.module.css'

type Addressed = Pick<SendLine, 'clientName' | 'recipientName' | 'isToClient' | 'address'>

/**
 * Who gets a message, as a sentence goes on: `to Oona Siltanen`, `to Ilse Thornquist for Oona Siltanen`. Where the client
 * stands above already, only who is somebody else; empty: nothing is to be said.
 */
export function toWhomWords(
  { clientName, recipientName, isToClient }: Addressed,
  isClientKnown = false,
): string {
  const name = recipientName === '' ? clientName : recipientName
  if (name === clientName) return isClientKnown ? '' : `to ${clientName}`
  if (!isToClient) return isClientKnown ? `to ${name}` : `to ${name} for ${clientName}`
  return isClientKnown ? `to ${name}` : `to ${name}, ${clientName}`
}

/** Who gets a message, and at which address. */
export function ToWhom({ send, isClientKnown }: { send: Addressed; isClientKnown?: boolean }) {
  const words = toWhomWords(send, isClientKnown)
  return (
    <span className={table.quiet}>
      {words}
      {send.address !== null && send.recipientName !== send.address && <small> {send.address}</small>}
    </span>
  )
}
