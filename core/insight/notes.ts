import { hourMs } from '../time/calendar.ts'
import { clockTime, dateAndTime } from '../time/format.ts'
import { dayAt, type Zone } from '../time/zones.ts'

/** So long before a last chance the note that comes at once goes, in milliseconds. */
export const noteAheadMs = 2 * hourMs

/** A message a note speaks of. */
export interface NotedMessage {
  readonly action: string
  readonly clientName: string
  /** Null: it can go at any time. */
  readonly lastChanceAt: number | null
  /** What is wrong with it; empty: it waits. */
  readonly trouble: string
}

/** What needs one person this morning. */
export interface MorningFacts {
  readonly waiting: readonly NotedMessage[]
  /** In trouble since the beginning of the day before. */
  readonly trouble: readonly NotedMessage[]
  readonly tasks: readonly { readonly title: string; readonly clientName: string }[]
}

export interface Note {
  readonly subject: string
  readonly text: string
}

const about = ({ action, clientName }: NotedMessage) => `${action} to ${clientName}`
const several = (count: number, one: string, many: string) => `${count} ${count === 1 ? one : many}`

function section(title: string, lines: readonly string[]): readonly string[] {
  return lines.length === 0 ? [] : [title, ...lines.map((line) => `- ${line}`), '']
}

/**
 * The morning's note: what expires today, what else waits, what went wrong, what is to be done. Null where nothing needs
 * the person: no note is better than an empty one.
 */
export function morningNote(
  { waiting, trouble, tasks }: MorningFacts,
  zone: Zone,
  now: number,
  deskUrl: string,
): Note | null {
  if (waiting.length + trouble.length + tasks.length === 0) return null
  const isToday = (at: number | null) => at !== null && dayAt(zone, at) === dayAt(zone, now)
  const today = waiting.filter(({ lastChanceAt }) => isToday(lastChanceAt))
  const later = waiting.filter(({ lastChanceAt }) => !isToday(lastChanceAt))
  const parts = [
    ...(waiting.length > 0 ? [several(waiting.length, 'waits for you', 'wait for you')] : []),
    ...(today.length > 0 ? [several(today.length, 'expires today', 'expire today')] : []),
    ...(trouble.length > 0 ? [several(trouble.length, 'went wrong', 'went wrong')] : []),
    ...(tasks.length > 0 ? [several(tasks.length, 'thing to do', 'things to do')] : []),
  ]
  const lines = [
    ...section(
      'Last chance today',
      today.map((one) => `${clockTime(zone, one.lastChanceAt ?? now)}  ${about(one)}`),
    ),
    ...section(
      'Waiting for you',
      later.map((one) =>
        one.lastChanceAt === null
          ? about(one)
          : `${about(one)}, last chance ${dateAndTime(zone, one.lastChanceAt)}`,
      ),
    ),
    ...section(
      'Went wrong',
      trouble.map((one) => `${about(one)}: ${one.trouble}`),
    ),
    ...section(
      'To do today',
      tasks.map(({ title, clientName }) => `${title} (${clientName})`),
    ),
    `Everything stands on the Desk: ${deskUrl}`,
    '',
  ]
  return { subject: `This morning: ${parts.join(', ')}`, text: lines.join('\n') }
}

/** The note at once: a message that waits has its last chance soon. */
export function lastChanceNote(message: NotedMessage, zone: Zone, deskUrl: string): Note {
  const at = message.lastChanceAt ?? 0
  const words = about(message)
  return {
    subject: `Last chance ${clockTime(zone, at)}: ${words}`,
    text: `${words} waits for your approval.\nAfter ${dateAndTime(zone, at)} it can no longer go.\n\nDecide here: ${deskUrl}\n`,
  }
}
