import { type Addressed, toWhom } from '#core/planning/toWhom.ts'
import table from './timetable.module.css'

interface ToWhomProps {
  readonly send: Addressed & { readonly address: string | null }
  /** Whether the client stands above. */
  readonly isClientKnown?: boolean
}

/** Who gets a message, and at which address. */
export function ToWhom({ send, isClientKnown }: ToWhomProps) {
  const name = toWhom(send, isClientKnown)
  return (
    <span className={table.quiet}>
      {name !== '' && `to ${name}`}
      {send.address !== null && send.recipientName !== send.address && <small> {send.address}</small>}
    </span>
  )
}
