/*
 * How far a mailbox was read. Mails are numbered upwards in it (RFC 3501 2.3.1.1); the numbers hold as long as its
 * UIDVALIDITY stays the same. What lay there at the first connection is old: it is noted by its key, and nothing follows from it.
 */

export interface MailboxPosition {
  readonly uidValidity: string
  /** Read up to this number. */
  readonly lastUid: number
  /** When it was read for the first time, in real time. */
  readonly firstAt: number
  /** Up to this number it was there before that. */
  readonly oldUntil: number
  /** Up to this number that is noted. */
  readonly oldNoted: number
  /** How many were noted, and are to be. */
  readonly notedCount: number
  readonly oldCount: number
}

/** A mailbox as it is opened. */
export interface OpenedFolder {
  readonly uidValidity: string
  /** The number the next mail gets. */
  readonly uidNext: number
  /** How many lie in it. */
  readonly exists: number
}

/** All that lies there is old; what comes from now on is new. */
const first = ({ uidValidity, uidNext, exists }: OpenedFolder, now: number): MailboxPosition => ({
  uidValidity,
  lastUid: uidNext - 1,
  firstAt: now,
  oldUntil: exists === 0 ? 0 : uidNext - 1,
  oldNoted: 0,
  notedCount: 0,
  oldCount: exists,
})

/** In a mailbox that came with the house nothing is old. */
const allNew = ({ uidValidity }: OpenedFolder, now: number): MailboxPosition => ({
  ...first({ uidValidity, uidNext: 1, exists: 0 }, now),
})

/** Where reading goes on. `known` null: it was never read. Numbered anew, all of it is looked through again. */
export function positionIn(
  known: MailboxPosition | null,
  folder: OpenedFolder,
  now: number,
  isOwn: boolean,
): MailboxPosition {
  if (!known) return isOwn ? allNew(folder, now) : first(folder, now)
  if (known.uidValidity === folder.uidValidity) return known
  return { ...known, uidValidity: folder.uidValidity, lastUid: 0, oldUntil: 0, oldNoted: 0 }
}

/** Whether some of what is old has not been noted yet. */
export const hasOldToNote = ({ oldNoted, oldUntil }: MailboxPosition): boolean => oldNoted < oldUntil

/** After some of what is old was noted, up to a number; null: there is no more of it. */
export function afterNoting(position: MailboxPosition, count: number, upTo: number | null): MailboxPosition {
  // What was deleted meanwhile is not to be noted any more.
  if (upTo === null) return { ...position, oldNoted: position.oldUntil, notedCount: position.oldCount }
  const notedCount = Math.min(position.oldCount, position.notedCount + count)
  return { ...position, oldNoted: upTo, notedCount }
}

/**
 * Whether a mail that is read is one that lay there before. It is noted; where it was numbered anew before all were noted,
 * its arrival at the mail server tells (RFC 3501 2.3.3; real time).
 */
export function liesFromBefore(
  { notedCount, oldCount, oldUntil, firstAt }: MailboxPosition,
  { isNoted, arrivedAt }: { readonly isNoted: boolean; readonly arrivedAt: number | null },
): boolean {
  const isByTime = oldUntil === 0 && notedCount < oldCount
  return isNoted || (isByTime && arrivedAt !== null && arrivedAt < firstAt)
}
