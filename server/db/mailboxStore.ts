import { incomingMailbox, type IncomingMailbox } from '#core/model/incomingMailbox.ts'
import type { MailboxPosition } from '#core/incoming/mailboxPosition.ts'
import { asJson, fromJson, kept } from './columns.ts'
import type { Statements } from './statements.ts'
import { readRows } from './unreadable.ts'

/** A mailbox that is read, with its password as it is kept: sealed, null where it has none. */
export interface KeptMailbox extends IncomingMailbox {
  readonly sealedPassword: string | null
}

/** A mailbox as others see it. */
export const withoutPassword = (mailbox: KeptMailbox): IncomingMailbox =>
  incomingMailbox.strip().parse(mailbox)

/** All of them by their names; one that cannot be read is read from no more. */
export function readIncomingMailboxes(statements: Statements): KeptMailbox[] {
  return readRows(
    statements,
    'mailbox',
    statements.all('incomingMailboxes'),
    ({ mailboxJson, sealedPassword }) => ({
      ...incomingMailbox.parse(fromJson(mailboxJson)),
      sealedPassword: typeof sealedPassword === 'string' ? sealedPassword : null,
    }),
  ).toSorted((one, other) => one.name.localeCompare(other.name))
}

function forgetReading(statements: Statements, mailboxId: string) {
  statements.run('forgetMailboxPosition', { mailboxId })
  statements.run('forgetOldMail', { mailboxId })
}

export function putIncomingMailbox(
  statements: Statements,
  mailbox: IncomingMailbox,
  sealedPassword: string | null,
  readsAnew: boolean,
) {
  const mailboxJson = asJson(kept(incomingMailbox, mailbox))
  statements.run('putIncomingMailbox', { id: mailbox.id, mailboxJson, sealedPassword })
  if (readsAnew) forgetReading(statements, mailbox.id)
}

export function removeIncomingMailbox(statements: Statements, id: string) {
  statements.run('removeIncomingMailbox', { id })
  forgetReading(statements, id)
}

export function readPosition(statements: Statements, mailboxId: string): MailboxPosition | null {
  const row = statements.one('mailboxPosition', { mailboxId })
  if (!row) return null
  return {
    uidValidity: String(row.uidValidity),
    lastUid: Number(row.lastUid),
    firstAt: Number(row.firstAt),
    oldUntil: Number(row.oldUntil),
    oldNoted: Number(row.oldNoted),
    notedCount: Number(row.notedCount),
    oldCount: Number(row.oldCount),
  }
}

export function putPosition(statements: Statements, mailboxId: string, position: MailboxPosition) {
  statements.run('putMailboxPosition', { mailboxId, ...position })
}

/** Notes that a mail lay there before, by its key. */
export function noteOld(statements: Statements, mailboxId: string, key: string) {
  statements.run('noteOldMail', { mailboxId, key })
}

export const isOld = (statements: Statements, mailboxId: string, key: string): boolean =>
  statements.one('isOldMail', { mailboxId, key }) !== undefined
