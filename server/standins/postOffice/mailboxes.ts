import { createServer, type AddressInfo, type Socket } from 'node:net'
import { parser } from 'imapflow/lib/handler/imap-handler.js'
import type { PostOfficeFile } from './file.ts'
import { fetched, named, searched, textOf, tokensOf, type Numbered, type Tokens } from './mailboxCommands.ts'

/** Opens every mailbox of the post office: what lies in them is made up. */
export const mailboxPassword = 'for looking in'

interface ReadersOptions {
  /** Whether who waits is told when something comes (RFC 2177). */
  readonly offersIdle?: boolean
}

export interface ListeningMailboxes {
  readonly port: number
  /** Tells those who wait that something has come. */
  readonly note: () => void
  readonly close: () => Promise<void>
}

const longestLine = 64 * 1024

/** One mail program that reads. */
class Conversation {
  private rest = ''
  private turn: Promise<void> = Promise.resolve()
  private address: string | null = null
  private isOpen = false
  private told = 0
  private idleTag: string | null = null

  constructor(
    private readonly socket: Socket,
    private readonly file: PostOfficeFile,
    private readonly offersIdle: boolean,
  ) {
    this.say(`* OK [CAPABILITY ${this.capabilities}] The post office`)
    socket.on('data', (bytes: Buffer) => this.hear(bytes.toString('latin1')))
    socket.on('error', () => undefined)
  }

  /** Something may have come. */
  note() {
    if (this.idleTag !== null) this.tellNew()
  }

  end() {
    this.socket.destroy()
  }

  private get capabilities() {
    return this.offersIdle ? 'IMAP4rev1 IDLE' : 'IMAP4rev1'
  }

  private get numbering(): number {
    return this.address === null ? 1 : this.file.numberingOf(this.address)
  }

  /** Numbers differ with each numbering, as they do after a mailbox was put back from a backup. */
  private get mails(): readonly Numbered[] {
    if (this.address === null) return []
    const offset = (this.numbering - 1) * 1000
    return this.file
      .idsOf(this.address)
      .map((id, index) => ({ uid: id + offset, place: index + 1, mail: () => this.file.mail(id) }))
  }

  private say(line: string) {
    this.socket.write(`${line}\r\n`)
  }

  private tellNew() {
    const { length } = this.mails
    if (length !== this.told) this.say(`* ${length} EXISTS`)
    this.told = length
  }

  private hear(text: string) {
    this.rest += text
    if (this.rest.length > longestLine) this.end()
    for (let end = this.rest.indexOf('\r\n'); end >= 0; end = this.rest.indexOf('\r\n')) {
      const line = this.rest.slice(0, end)
      this.rest = this.rest.slice(end + 2)
      this.turn = this.turn
        .then(() => this.answer(line))
        .catch(() => this.say('* BAD That is not understood'))
    }
  }

  private async answer(line: string) {
    if (this.idleTag !== null && line.toUpperCase() === 'DONE') {
      this.say(`${this.idleTag} OK Done`)
      this.idleTag = null
      return
    }
    const parsed = await parser(Buffer.from(line, 'latin1'))
    const { tag = '*', command = '' } = parsed
    this.carryOut(tag, command.toUpperCase(), tokensOf(parsed))
  }

  private carryOut(tag: string, command: string, tokens: Tokens) {
    switch (command) {
      case 'CAPABILITY':
        this.say(`* CAPABILITY ${this.capabilities}`)
        break
      case 'LOGIN':
        if (textOf(tokens[1]) !== mailboxPassword) {
          this.say(`${tag} NO [AUTHENTICATIONFAILED] That is not the password`)
          return
        }
        this.address = textOf(tokens[0])
        break
      case 'LIST':
      case 'LSUB':
        this.say(`* ${command} () "/" "INBOX"`)
        break
      case 'NOOP':
      case 'CHECK':
        if (this.isOpen) this.tellNew()
        break
      case 'LOGOUT':
        this.say('* BYE')
        break
      case 'SELECT':
      case 'EXAMINE':
        if (!this.select(tag, textOf(tokens[0]))) return
        break
      case 'IDLE':
        this.idleTag = tag
        this.say('+ Something may come')
        this.tellNew()
        return
      default:
        if (!this.look(tag, command, tokens)) return
    }
    this.say(`${tag} OK Done`)
    if (command === 'LOGOUT') this.socket.end()
  }

  /** Opens the one folder there is. */
  private select(tag: string, folder: string): boolean {
    if (this.address === null || folder.toUpperCase() !== 'INBOX') {
      this.say(`${tag} NO There is no folder ${folder}`)
      return false
    }
    const { mails } = this
    this.isOpen = true
    this.told = mails.length
    const next = (mails.at(-1)?.uid ?? (this.numbering - 1) * 1000) + 1
    this.say('* FLAGS ()')
    this.say(`* ${mails.length} EXISTS`)
    this.say('* 0 RECENT')
    this.say(`* OK [UIDVALIDITY ${this.numbering}] Numbers hold as long`)
    this.say(`* OK [UIDNEXT ${next}] The next one`)
    return true
  }

  /** Looks for mails or gives them out. */
  private look(tag: string, command: string, tokens: Tokens): boolean {
    const [, byUid, what] = /^(UID )?(SEARCH|FETCH)$/.exec(command) ?? []
    if (what === undefined || !this.isOpen) {
      this.say(`${tag} BAD That is not known here`)
      return false
    }
    const isByUid = byUid !== undefined
    if (what === 'SEARCH') {
      const numbers = searched(this.mails, tokens).map(({ uid, place }) => (isByUid ? uid : place))
      this.say(['* SEARCH', ...numbers].join(' '))
      return true
    }
    for (const one of named(this.mails, textOf(tokens[0]), isByUid))
      this.socket.write(fetched(one, tokens[1]))
    return true
  }
}

/** The post office's mailboxes for mail programs that read them, by IMAP on the loopback address. */
export async function listenForReaders(
  file: PostOfficeFile,
  { offersIdle = true }: ReadersOptions = {},
): Promise<ListeningMailboxes> {
  const conversations = new Set<Conversation>()
  const server = createServer((socket) => {
    const conversation = new Conversation(socket, file, offersIdle)
    conversations.add(conversation)
    socket.on('close', () => conversations.delete(conversation))
  })
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', resolve)
  })
  return {
    port: (server.address() as AddressInfo).port,
    note: () => conversations.forEach((one) => one.note()),
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve())
        conversations.forEach((one) => one.end())
      }),
  }
}
