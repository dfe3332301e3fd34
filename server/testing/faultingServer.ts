import { createServer, type AddressInfo, type Server, type Socket } from 'node:net'

/** A command at which a mail server can be at fault; `.` is the end of the message. */
export type SmtpStage = 'greeting' | 'EHLO' | 'STARTTLS' | 'AUTH' | 'MAIL' | 'RCPT' | 'DATA' | '.'
/** What it does there: gives an answer, or `silence`, a `drip` without end, or a `drop` of the connection. */
export type SmtpFaultKind = string

export interface FaultingServer {
  readonly port: number
  /**
   * At fault at a stage from now on: for one recipient where it is named, else in so many conversations. Null: no more.
   */
  fault(
    at: SmtpStage | null,
    kind?: SmtpFaultKind,
    only?: { readonly to?: string; readonly times?: number },
  ): void
  /** How often it was at fault. */
  readonly faults: () => number
  /** Whom messages were taken for. */
  readonly taken: () => readonly string[]
  readonly signIns: () => number
  /** Ends every conversation. */
  hangUp(): void
  close(): void
}

const polite: Readonly<Record<SmtpStage, string>> = {
  greeting: '220 mail.example',
  EHLO: '250-mail.example\r\n250 AUTH PLAIN',
  STARTTLS: '220 go on',
  AUTH: '235 2.7.0 welcome',
  MAIL: '250 2.1.0 fine',
  RCPT: '250 2.1.5 fine',
  DATA: '354 go on',
  '.': '250 2.0.0 taken',
}
const dripMs = 100

interface Fault {
  readonly at: SmtpStage
  readonly kind: SmtpFaultKind
  readonly to: string | null
  left: number
}

/** What the server is to do, and what has happened. */
interface Story {
  fault: Fault | null
  faults: number
  signIns: number
  readonly taken: string[]
}

/** Answers a command, or is at fault at it. */
function answer(socket: Socket, story: Story, stage: SmtpStage, to: string) {
  const { fault } = story
  const isMet = fault?.at === stage && (fault.to === null || fault.to === to) && fault.left > 0
  if (!fault || !isMet) {
    if (stage === '.') story.taken.push(to)
    const offersTls = fault?.at === 'STARTTLS' && stage === 'EHLO'
    socket.write(`${offersTls ? '250-mail.example\r\n250 STARTTLS' : polite[stage]}\r\n`)
    return
  }
  story.faults += 1
  // A client that was refused at EHLO says HELO.
  if (stage !== 'EHLO') fault.left -= 1
  if (fault.kind === 'drop') socket.destroy()
  else if (fault.kind === 'drip') {
    const drip = setInterval(() => socket.write('2'), dripMs)
    socket.on('close', () => clearInterval(drip))
  } else if (fault.kind !== 'silence') socket.write(`${fault.kind}\r\n`)
}

function converse(socket: Socket, story: Story) {
  let rest = ''
  let isData = false
  let to = ''
  const meet = (line: string) => {
    const word = (line.split(' ')[0] ?? '').toUpperCase()
    if (word === 'AUTH') story.signIns += 1
    if (word === 'RCPT') to = /<(.*)>/.exec(line)?.[1] ?? ''
    const isRefused = story.fault?.at === 'DATA' && (story.fault.to === null || story.fault.to === to)
    isData = word === 'DATA' && !isRefused
    if (word === 'QUIT') socket.end('221 bye\r\n')
    else answer(socket, story, word === 'HELO' ? 'EHLO' : (word as SmtpStage), to)
  }
  socket.on('error', () => undefined)
  socket.on('data', (part) => {
    rest += part.toString('latin1')
    for (;;) {
      const end = rest.indexOf(isData ? '\r\n.\r\n' : '\r\n')
      if (end < 0) return
      const line = isData ? '.' : rest.slice(0, end)
      rest = rest.slice(end + (isData ? 5 : 2))
      meet(line)
    }
  })
  answer(socket, story, 'greeting', to)
}

/** A mail server that is at fault where a test wants it to be. */
export async function startFaultingServer(): Promise<FaultingServer> {
  const story: Story = { fault: null, faults: 0, signIns: 0, taken: [] }
  const sockets = new Set<Socket>()
  const hangUp = () => sockets.forEach((socket) => socket.destroy())
  const server: Server = createServer((socket) => {
    sockets.add(socket)
    socket.on('close', () => sockets.delete(socket))
    converse(socket, story)
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return {
    port: (server.address() as AddressInfo).port,
    fault(at, kind = 'silence', { to, times } = {}) {
      story.fault = at === null ? null : { at, kind, to: to ?? null, left: times ?? Infinity }
    },
    faults: () => story.faults,
    taken: () => story.taken,
    signIns: () => story.signIns,
    hangUp,
    close() {
      hangUp()
      server.close()
    },
  }
}
