import { ImapFlow, type FetchMessageObject, type MailboxObject } from 'imapflow'
import type { OpenedFolder } from '#core/incoming/mailboxPosition.ts'
import type { AccountAddress } from '../conversation.ts'
import { answerOf } from '../whoseFault.ts'

/** A folder of a mailbox, and how it is reached. */
export interface MailboxAddress extends AccountAddress {
  readonly folder: string
}

export type MailboxFaultKind = 'away' | 'unsafe' | 'sign-in refused' | 'no folder'

/** Why a mailbox cannot be read. */
export class MailboxFault extends Error {
  constructor(
    readonly what: MailboxFaultKind,
    /** In the server's own words, in one line. */
    readonly answer: string,
    readonly fault: { readonly code?: string; readonly message: string },
  ) {
    super(answer)
  }
}

/** How long a conversation may take, in milliseconds of real time. */
export interface MailboxLimits {
  /** Until there is a connection and a greeting. */
  readonly greeting: number
  /** Without a byte from the server. */
  readonly silence: number
}

export const usualMailboxLimits: MailboxLimits = { greeting: 30_000, silence: 120_000 }

/** A mail as a list of the mailbox tells it. */
export interface MailHead {
  readonly uid: number
  readonly bytes: number
  /** The block of its header fields. */
  readonly header: Buffer
  /** When it came to the mail server; null: nobody said. */
  readonly arrivedAt: number | null
}

/** A folder that is open to be read; nothing in it is changed, not even that a mail was seen. */
export interface OpenMailbox extends OpenedFolder {
  /** Whether the server says by itself when something comes (RFC 2177). */
  readonly isTold: boolean
  /** Numbers of the mails from one on, upwards. */
  uidsFrom(uid: number): Promise<readonly number[]>
  heads(uids: readonly number[]): Promise<readonly MailHead[]>
  /** A mail as it lies there, at most so many bytes of it; null: it is gone. */
  source(uid: number, mostBytes: number): Promise<Buffer | null>
  /** Asks the server whether the line holds and something has come. */
  check(): Promise<void>
  /** Called when something has come, or the line is lost. */
  onNews(listener: () => void): void
  close(): void
}

interface ImapError extends Error {
  readonly code?: string
  readonly responseText?: string
  readonly serverResponseCode?: string
  readonly authenticationFailed?: boolean
  readonly tlsFailed?: boolean
}

const isOfTls = ({ code, tlsFailed, message }: ImapError) =>
  tlsFailed === true ||
  /^(ERR_TLS|ERR_SSL|EPROTO|CERT_|DEPTH_ZERO|SELF_SIGNED|UNABLE_TO_)/.test(code ?? '') ||
  /certificate|ssl|tls/i.test(message)

/** Codes that speak of the moment and not of who signs in (RFC 5530). */
const forNow = ['UNAVAILABLE', 'INUSE', 'LIMIT', 'SERVERBUG', 'CONTACTADMIN']

/** A fault as the library tells it, as one of a mailbox. */
export function mailboxFault(thrown: unknown, at: 'line' | 'folder'): MailboxFault {
  if (thrown instanceof MailboxFault) return thrown
  const fault = (thrown instanceof Error ? thrown : new Error(String(thrown))) as ImapError
  const said = answerOf(fault.responseText ?? fault.message)
  const told = { message: fault.message, ...(fault.code === undefined ? {} : { code: fault.code }) }
  const isForNow = forNow.includes(fault.serverResponseCode ?? '')
  if (fault.authenticationFailed === true && !isForNow) return new MailboxFault('sign-in refused', said, told)
  if (isOfTls(fault)) return new MailboxFault('unsafe', said, told)
  if (at === 'folder' && fault.responseText !== undefined && !isForNow) {
    return new MailboxFault('no folder', said, told)
  }
  return new MailboxFault('away', said, told)
}

function clientFor(address: MailboxAddress, { greeting, silence }: MailboxLimits): ImapFlow {
  const { host, port, isSecure, turnsToTls, signIn } = address
  const client = new ImapFlow({
    host,
    port,
    secure: isSecure,
    // Asked for on a line that is safe already, it refuses to begin.
    ...(isSecure ? {} : { doSTARTTLS: turnsToTls === 'always' }),
    ...(signIn === null ? {} : { auth: signIn }),
    clientInfo: { name: 'Vorfreude' },
    logger: false,
    disableCompression: true,
    // Waiting begins as soon as nothing else is asked.
    autoIdleDelay: 50,
    maxIdleTime: 4 * 60_000,
    connectionTimeout: greeting,
    greetingTimeout: greeting,
    socketTimeout: silence,
  })
  return client
}

const headOf = ({ uid, size, headers, internalDate }: FetchMessageObject): MailHead => {
  const arrivedAt = internalDate === undefined ? NaN : new Date(internalDate).getTime()
  return {
    uid,
    bytes: size ?? 0,
    header: headers ?? Buffer.alloc(0),
    arrivedAt: Number.isNaN(arrivedAt) ? null : arrivedAt,
  }
}

function opened(client: ImapFlow, folder: MailboxObject, lost: () => ImapError | null): OpenMailbox {
  const byUid = { uid: true } as const
  const asked = async <Found>(ask: () => Promise<Found>): Promise<Found> => {
    const before = lost()
    if (before) throw mailboxFault(before, 'line')
    try {
      return await ask()
    } catch (fault) {
      throw mailboxFault(fault, 'line')
    }
  }
  return {
    uidValidity: String(folder.uidValidity),
    uidNext: folder.uidNext,
    exists: folder.exists,
    isTold: client.capabilities.has('IDLE'),
    uidsFrom: (uid) =>
      asked(async () => {
        const found = await client.search({ uid: `${uid}:*` }, byUid)
        if (!found) throw new Error('The mail server does not say what lies in the mailbox.')
        // The last mail answers to every number beyond it (RFC 3501 6.4.8).
        return found.filter((one) => one >= uid).sort((one, other) => one - other)
      }),
    heads: (uids) =>
      asked(async () => {
        const wanted = { uid: true, size: true, headers: true, internalDate: true } as const
        const found = await client.fetchAll(uids.join(','), wanted, byUid)
        return found.map(headOf).sort((one, other) => one.uid - other.uid)
      }),
    source: (uid, mostBytes) =>
      asked(async () => {
        const found = await client.fetchOne(String(uid), { source: { maxLength: mostBytes } }, byUid)
        return (found && found.source) || null
      }),
    check: () => asked(() => client.noop()),
    onNews(listener) {
      client.on('exists', listener)
      client.on('close', listener)
    },
    close: () => client.close(),
  }
}

/** Opens a folder to be read. Throws a MailboxFault. */
export async function openMailbox(
  address: MailboxAddress,
  limits: MailboxLimits = usualMailboxLimits,
): Promise<OpenMailbox> {
  const client = clientFor(address, limits)
  let fault: ImapError | null = null
  // What breaks between two questions is told by the next one.
  client.on('error', (thrown: Error) => (fault = thrown))
  client.on('close', () => (fault ??= new Error('The mail server closed the connection.')))
  try {
    await client.connect()
  } catch (thrown) {
    client.close()
    throw mailboxFault(thrown, 'line')
  }
  try {
    return opened(client, await client.mailboxOpen(address.folder, { readOnly: true }), () => fault)
  } catch (thrown) {
    client.close()
    throw mailboxFault(thrown, 'folder')
  }
}
