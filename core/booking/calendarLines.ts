/*
 * The lines of an iCalendar file (RFC 5545, 3.1), so far as it takes to say which one cannot be read. What they mean is
 * read elsewhere.
 */

/** What is wrong with a file, and in which of its lines, counted from 1. */
export interface CalendarFault {
  readonly line: number
  readonly sentence: string
}

export type CalendarLines =
  | { readonly ok: true; /** Where each entry begins, in order. */ readonly eventLines: readonly number[] }
  | { readonly ok: false; readonly fault: CalendarFault }

interface Line {
  readonly number: number
  readonly text: string
}

/** The lines with those that go on in the next one joined, each under the number of its first. */
function unfolded(text: string): readonly Line[] {
  const lines: Line[] = []
  text.split(/\r\n|\n|\r/).forEach((part, index) => {
    const last = lines.at(-1)
    if (/^[ \t]/.test(part) && last) lines[lines.length - 1] = { ...last, text: last.text + part.slice(1) }
    else if (part !== '') lines.push({ number: index + 1, text: part })
  })
  return lines
}

/** A name, parameters with values that may be quoted, a colon and a value. */
const contentLine = /^[A-Za-z0-9-]+(?:;[A-Za-z0-9-]+=(?:"[^"]*"|[^";:,]*)(?:,(?:"[^"]*"|[^";:,]*))*)*:/

const short = (text: string) => (text.length > 60 ? `${text.slice(0, 60)}…` : text)

const faultAt = ({ number: line }: Pick<Line, 'number'>, what: string): CalendarLines => ({
  ok: false,
  fault: { line, sentence: `Line ${line}: ${what}` },
})

/** The open parts of a file after one more line; what is wrong where it does not fit. */
function opened(open: readonly Line[], line: Line): readonly Line[] | string {
  const [, word = '', name = ''] = /^(BEGIN|END):\s*(.*?)\s*$/i.exec(line.text) ?? []
  const part = name.toUpperCase()
  if (word === '') return open
  if (word.toUpperCase() === 'BEGIN') {
    return open.length === 0 && part !== 'VCALENDAR'
      ? `“${short(line.text)}” stands outside of a calendar.`
      : [...open, { number: line.number, text: part }]
  }
  const last = open.at(-1)
  return last?.text === part
    ? open.slice(0, -1)
    : `“${short(line.text)}” ends what does not stand open${last ? `: that is ${last.text}, from line ${last.number} on` : ''}.`
}

/** Looks through a file: whether all lines are lines of a calendar, and all that is begun is ended. */
export function calendarLines(text: string): CalendarLines {
  const lines = unfolded(text.replace(/^\uFEFF/, ''))
  const [first] = lines
  if (!first) return faultAt({ number: 1 }, 'the file is empty.')
  if (!/^BEGIN:\s*VCALENDAR\s*$/i.test(first.text)) {
    return faultAt(first, 'a calendar begins with BEGIN:VCALENDAR. This is another kind of file.')
  }
  let open: readonly Line[] = []
  const eventLines: number[] = []
  for (const line of lines) {
    if (!contentLine.test(line.text)) {
      return faultAt(line, `“${short(line.text)}” is no line of a calendar: a name, a colon and a value.`)
    }
    const next = opened(open, line)
    if (typeof next === 'string') return faultAt(line, next)
    if (next.length > open.length && next.at(-1)?.text === 'VEVENT') eventLines.push(line.number)
    if (next === open && open.length === 0)
      return faultAt(line, `“${short(line.text)}” stands outside of a calendar.`)
    open = next
  }
  const last = open.at(-1)
  return last
    ? faultAt(last, `BEGIN:${last.text} is never ended: the file stops too early.`)
    : { ok: true, eventLines }
}
