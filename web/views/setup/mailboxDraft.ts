import type { WaysBack } from '#core/api/mailboxEndpoints.ts'
import {
  incomingMailboxInput,
  type IncomingMailboxInput,
  type ReadingState,
} from '#core/model/incomingMailbox.ts'
import { draftOf, readMailDraft, type MailDraft } from './mailDraft.ts'

export type Mailbox = WaysBack['mailboxes'][number]

/** A mailbox while it is typed. */
export interface MailboxDraft {
  readonly name: string
  readonly folder: string
  readonly mail: MailDraft
}

/** What the form begins with; null: a new one. */
export const draftOfMailbox = (present: Mailbox | null): MailboxDraft => ({
  name: present?.name ?? '',
  folder: present?.folder ?? 'INBOX',
  mail: draftOf({ account: present?.account ?? null }, 'reading'),
})

type Errors = Readonly<Record<string, string>>

/** What is typed as the server takes it, or what is wrong with it by field. */
export function readMailboxDraft(
  { mail, ...plain }: MailboxDraft,
  present: Mailbox | null,
): { mailbox: IncomingMailboxInput } | { errors: Errors } {
  const kept = { account: present?.account ?? null, hasPassword: present?.hasPassword ?? false }
  const read = readMailDraft(mail, kept)
  const parsed = incomingMailboxInput.safeParse({
    ...plain,
    account: 'account' in read ? read.account : null,
  })
  if (parsed.success) return { mailbox: parsed.data }
  const issues = parsed.error.issues.filter(({ path }) => path[0] !== 'account' || path.length > 1)
  const own = issues.map(({ path, message }): [string, string] => [String(path.at(-1)), message])
  return { errors: { ...('errors' in read ? read.errors : {}), ...Object.fromEntries(own) } }
}

const number = new Intl.NumberFormat('en')

/** How far a mailbox is read, in words. */
export function stateWords(state: ReadingState): string {
  switch (state.kind) {
    case 'connecting':
      return 'Connecting …'
    case 'reading':
      return `Taking in ${number.format(state.waiting)} …`
    case 'noting what is old':
      return `Looking through what lay there before, so that nothing follows from it: ${number.format(state.noted)} of ${number.format(state.of)}. New mail does not wait for that.`
    case 'listening':
      return state.isTold
        ? 'Read to the end. The mail server says when something comes.'
        : 'Read to the end. It is looked into every minute.'
    case 'fault':
      return state.sentence
  }
}
