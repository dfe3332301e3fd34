import { twoDigits } from '#core/time/calendar.ts'

const weekdays = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** `Thu Nov 26 05:27:57 2026`, UTC: the timestamp of RFC 4155, that of asctime. */
function timestamp(at: number): string {
  const date = new Date(at)
  const clock = [date.getUTCHours(), date.getUTCMinutes(), date.getUTCSeconds()].map(twoDigits).join(':')
  const day = String(date.getUTCDate()).padStart(2, ' ')
  return `${weekdays[date.getUTCDay()] ?? ''} ${months[date.getUTCMonth()] ?? ''} ${day} ${clock} ${date.getUTCFullYear()}`
}

export interface MboxMessage {
  /** Envelope sender. */
  readonly from: string
  readonly at: number
  /** The RFC 5322 message. */
  readonly source: Buffer
}

/** A line that begins like the one between messages, however often it was quoted already. */
const fromLine = /^(>*From )/gm

/**
 * Messages as one mbox file (RFC 4155, application/mbox): a line `From sender timestamp` before each, lines ended by LF,
 * an empty line after each. Lines of a message that begin with `From ` get a `>` before them, quoted ones one more, so
 * that taking one away gives the message back.
 */
export function mboxOf(messages: readonly MboxMessage[]): string {
  return messages
    .map(({ from, at, source }) => {
      const text = source.toString('latin1').replace(/\r\n/g, '\n').replace(fromLine, '>$1')
      return `From ${from} ${timestamp(at)}\n${text}${text.endsWith('\n') ? '' : '\n'}\n`
    })
    .join('')
}
