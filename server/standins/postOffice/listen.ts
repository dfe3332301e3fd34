import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { simpleParser } from 'mailparser'
import { SMTPServer, type SMTPServerSession } from 'smtp-server'
import { SmtpRefusal } from '../../mail/smtpRefusal.ts'
import { listenForReaders } from './mailboxes.ts'
import { openPostOfficeFile, type Behaviour, type PostOfficeFile } from './file.ts'

function dropConnection(server: SMTPServer, session: SMTPServerSession) {
  for (const connection of server.connections as Set<{ id?: string; _socket?: { destroy(): void } }>) {
    if (connection.id === session.id) connection._socket?.destroy()
  }
}

async function keep(
  file: PostOfficeFile,
  stream: AsyncIterable<Buffer>,
  session: SMTPServerSession,
): Promise<Behaviour | null> {
  const source = await buffer(stream)
  const headers = await simpleParser(source, { skipHtmlToText: true, skipTextToHtml: true })
  const addresses = session.envelope.rcptTo.map(({ address }) => address)
  if (addresses.some((address) => file.behaviourOf(address) === 'never answer')) return 'never answer'
  file.keep(addresses, headers.date?.getTime() ?? Date.now(), headers.messageId ?? '', source)
  return (
    addresses.map((address) => file.behaviourOf(address)).find((kind) => kind === 'drop after data') ?? null
  )
}

export interface ListeningPostOffice {
  /** Where mail is handed in, by SMTP. */
  readonly port: number
  /** Where mailboxes are read, by IMAP. */
  readonly mailboxPort: number
  readonly close: () => Promise<void>
}

/** A real SMTP server on the loopback address, which answers 250 only after its own commit, and its mailboxes. */
export async function listenAsPostOffice(folder: string): Promise<ListeningPostOffice> {
  const file = openPostOfficeFile(join(folder, 'postoffice.db'))
  const mailboxes = await listenForReaders(file)
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: 25 * 1024 * 1024,
    onRcptTo({ address }, session, answer) {
      switch (file.behaviourOf(address)) {
        case 'refuse':
          answer(new SmtpRefusal(550, `5.1.1 There is no mailbox ${address} here`))
          return
        case 'later':
          answer(new SmtpRefusal(451, `4.2.1 The mailbox ${address} cannot take anything just now`))
          return
        case 'drop before data':
          dropConnection(server, session)
          return
        default:
          answer()
      }
    },
    onData(stream, session, answer) {
      keep(file, stream, session).then(
        (behaviour) => {
          mailboxes.note()
          if (behaviour === 'drop after data') dropConnection(server, session)
          else if (behaviour !== 'never answer') answer(null)
        },
        (fault: unknown) => {
          answer(
            new SmtpRefusal(
              451,
              `4.3.0 ${fault instanceof Error ? fault.message : 'The message could not be kept'}`,
            ),
          )
        },
      )
    },
  })
  // A sender that goes away in the middle is no fault of the post office's.
  server.on('error', () => undefined)
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', resolve)
  })
  return {
    port: (server.server.address() as AddressInfo).port,
    mailboxPort: mailboxes.port,
    async close() {
      await mailboxes.close()
      await new Promise<void>((resolve) => {
        server.close(() => resolve())
      })
      file.close()
    },
  }
}
