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

/** The line before each message, at the start of the file or after an empty line. */
const separator = /(?:^|(?<=\n)\n)From \S{1,300} [^\n]{10,100}\n/g
/** It says when, as asctime does or near it. */
const saysWhen = (line: string) => /\d\d:\d\d/.test(line) && /\d{4}/.test(line)

/**
 * The messages of an mbox file (RFC 4155), one quote taken off their lines; a file without such a line is one message.
 * Byte by byte as latin1 text, as `mboxOf` gives it.
 */
export function messagesOfMbox(file: string): readonly string[] {
  const text = file.replace(/\r\n/g, '\n')
  const lines = [...text.matchAll(separator)].filter(([line]) => saysWhen(line))
  if (lines[0]?.index !== 0) return [text]
  const whole = text.replace(/\n\n$/, '\n')
  return lines.map((line, index) =>
    whole.slice(line.index + line[0].length, lines[index + 1]?.index).replace(/^>(>*From )/gm, '$1'),
  )
}

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
