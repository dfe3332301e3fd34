import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { connect } from 'node:net'
import { join, resolve } from 'node:path'
import { freePort } from './freePort.ts'
import { makeCertificate } from './ownCertificate.ts'
import { within } from './ownProcess.ts'
import { testFolder } from './seed.ts'

/*
 * Mail servers as they stand at hosts everywhere: OpenSMTPD takes mail and hands it on, Dovecot keeps the mailboxes and
 * lets their users in. They come from Debian's packages and are unpacked, never installed: they see their files laid over
 * the machine's own, which stays as it is, and end with whoever started them.
 */

const packages = [
  'opensmtpd',
  'dovecot-imapd',
  'dovecot-lmtpd',
  'dovecot-sieve',
  'dovecot-submissiond',
] as const
const kept = resolve('.cache/mail-servers')
const patience = 30_000

/** Fetches and unpacks the packages with what they need; returns where they lie. */
function unpacked(): string {
  const root = join(kept, 'root')
  if (existsSync(join(root, 'whole'))) return root
  mkdirSync(join(kept, 'archives/partial'), { recursive: true })
  const options = [`Dir::Cache::archives=${kept}/archives`, 'APT::Sandbox::User=root'].flatMap((one) => [
    '-o',
    one,
  ])
  const fetching = ['install', '-y', '--download-only', '--no-install-recommends', ...options, ...packages]
  execFileSync('apt-get', fetching, { stdio: 'pipe' })
  for (const archive of readdirSync(join(kept, 'archives')).filter((name) => name.endsWith('.deb'))) {
    execFileSync('dpkg', ['-x', join(kept, 'archives', archive), root])
  }
  writeFileSync(join(root, 'whole'), '')
  return root
}

/** Users the two servers run as, in the order of their numbers. */
const systemUsers = ['dovecot', 'dovenull', 'opensmtpd', 'opensmtpq', 'vmail']
const firstNumber = 901

function writeUsers(folder: string) {
  const lines = (line: (name: string, number: number) => string) =>
    systemUsers.map((name, index) => line(name, firstNumber + index) + '\n').join('')
  const users = lines((name, number) => `${name}:x:${number}:${number}::/var/lib/${name}:/usr/sbin/nologin`)
  writeFileSync(join(folder, 'passwd'), readFileSync('/etc/passwd', 'utf8') + users)
  const groups = lines((name, number) => `${name}:x:${number}:`)
  writeFileSync(join(folder, 'group'), readFileSync('/etc/group', 'utf8') + groups)
}

export interface Mailbox {
  readonly address: string
  readonly password: string
  /** What its vacation answers (RFC 5230); absent: nothing. */
  readonly away?: string
}

interface Ports {
  /** Where users hand in what they send: safe from the first byte (RFC 8314), after signing in. */
  readonly submission: number
  /** Where mailboxes are read: safe from the first byte. */
  readonly imap: number
  /** The same, turned to TLS after the greeting. */
  readonly imapInTheClear: number
  /** Where other hosts hand in mail. */
  readonly smtp: number
  readonly lmtp: number
}

interface Wanted {
  readonly mailboxes: readonly Mailbox[]
  /** An address whose mail is forwarded, and the port it goes to. */
  readonly forwarded: { readonly address: string; readonly port: number }
}

/** Where they see their folder: the way to it is nobody else's to go. */
const seenAt = '/run/mail'

function dovecot({ submission, imap, imapInTheClear, smtp, lmtp }: Ports): string {
  return `protocols = imap lmtp submission
base_dir = /run/dovecot
log_path = ${seenAt}/dovecot.log
listen = 127.0.0.1
hostname = localhost
ssl = required
ssl_cert = <${seenAt}/cert.pem
ssl_key = <${seenAt}/key.pem
mail_location = maildir:~/Maildir
first_valid_uid = 1
passdb {
  driver = passwd-file
  args = ${seenAt}/mailboxes
}
userdb {
  driver = passwd-file
  args = ${seenAt}/mailboxes
  override_fields = uid=vmail gid=vmail home=/var/lib/vmail/%u
}
namespace inbox {
  inbox = yes
}
service imap-login {
  inet_listener imap {
    port = ${imapInTheClear}
  }
  inet_listener imaps {
    port = ${imap}
    ssl = yes
  }
}
service submission-login {
  inet_listener submission {
    port = 0
  }
  inet_listener submissions {
    port = ${submission}
    ssl = yes
  }
}
submission_relay_host = 127.0.0.1
submission_relay_port = ${smtp}
service lmtp {
  inet_listener lmtp {
    port = ${lmtp}
  }
}
protocol lmtp {
  postmaster_address = postmaster@localhost
  auth_username_format = %u
  mail_plugins = sieve
}
submission_host = 127.0.0.1:${smtp}
plugin {
  sieve = file:${seenAt}/sieve/%u.sieve
}
`
}

function openSmtpd({ smtp, lmtp }: Ports, { mailboxes, forwarded }: Wanted): string {
  const domains = new Set(mailboxes.map(({ address }) => address.split('@')[1] ?? ''))
  return `listen on 127.0.0.1 port ${smtp} hostname localhost
action "forwarded" relay host "smtp://127.0.0.1:${forwarded.port}"
action "kept" relay host "lmtp://127.0.0.1:${lmtp}"
match from any for rcpt-to "${forwarded.address}" action "forwarded"
${[...domains].map((domain) => `match from any for domain "${domain}" action "kept"`).join('\n')}
`
}

/** In a room of its own: what it lays over the machine's files nobody else sees. */
function script(folder: string, root: string): string {
  return `set -e
mount -t overlay overlay -o lowerdir=${root}/usr:/usr /usr
mount --bind ${folder}/passwd /etc/passwd
mount --bind ${folder}/group /etc/group
for one in /var/lib /var/spool /run; do mount -t tmpfs tmpfs $one; done
mkdir ${seenAt}
mount --bind ${folder} ${seenAt}
mkdir -p /var/lib/opensmtpd/empty /var/lib/vmail /var/spool/smtpd
chmod 711 /var/lib/opensmtpd /var/spool/smtpd
chown vmail:vmail /var/lib/vmail ${seenAt}/sieve
dovecot -F -c ${seenAt}/dovecot.conf &
exec smtpd -d -f ${seenAt}/smtpd.conf
`
}

const connects = (port: number) =>
  new Promise<boolean>((done) => {
    const line = connect(port, '127.0.0.1')
    line.once('connect', () => done(true)).once('error', () => done(false))
    line.once('connect', () => line.destroy())
  })

async function writeAll(folder: string, root: string, ports: Ports, wanted: Wanted): Promise<string> {
  const certificate = await makeCertificate(['127.0.0.1', 'localhost'])
  const sieve = join(folder, 'sieve')
  execFileSync('chmod', ['755', folder])
  mkdirSync(sieve)
  writeUsers(folder)
  const write = (name: string, text: string, mode = 0o644) =>
    writeFileSync(join(folder, name), text, { mode })
  write('cert.pem', certificate.cert)
  write('key.pem', certificate.key, 0o600)
  write('dovecot.conf', dovecot(ports))
  write('smtpd.conf', openSmtpd(ports, wanted), 0o600)
  write('start.sh', script(folder, root))
  const lines = wanted.mailboxes.map(({ address, password }) => `${address}:{PLAIN}${password}::::::\n`)
  write('mailboxes', lines.join(''))
  for (const { address, away } of wanted.mailboxes) {
    if (away === undefined) continue
    const rule = `require ["vacation"];\nvacation :days 1 :addresses "${address}" ${JSON.stringify(away)};\n`
    writeFileSync(join(sieve, `${address}.sieve`), rule)
  }
  return certificate.file
}

export interface RealMailServers {
  readonly ports: Ports
  /** The certificate both show, for who is to believe it. */
  readonly certificateFile: string
  /** What they wrote down. */
  log(): string
  end(): Promise<void>
}

function starts(folder: string): { readonly child: ChildProcess; readonly output: () => string } {
  const room = ['--mount', '--pid', '--fork', '--kill-child', '--mount-proc']
  const child = spawn('unshare', [...room, 'bash', join(folder, 'start.sh')], {
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  let output = ''
  for (const stream of [child.stdout, child.stderr]) {
    stream.on('data', (part: Buffer) => (output += part.toString()))
  }
  return { child, output: () => output }
}

/** Starts both on free ports of this machine; needs to be root, for the room of their own. */
export async function startRealMailServers(wanted: Wanted): Promise<RealMailServers> {
  const root = unpacked()
  const folder = testFolder()
  const [submission = 0, imap = 0, imapInTheClear = 0, smtp = 0, lmtp = 0] = await Promise.all(
    Array.from({ length: 5 }, freePort),
  )
  const ports = { submission, imap, imapInTheClear, smtp, lmtp }
  const certificateFile = await writeAll(folder, root, ports, wanted)
  const { child, output } = starts(folder)
  const log = () => {
    const file = join(folder, 'dovecot.log')
    const lines = (output() + (existsSync(file) ? readFileSync(file, 'utf8') : '')).split('\n')
    return lines.filter((line) => !/Connection closed|Logged out|Login: |Connect from/.test(line)).join('\n')
  }
  // It heeds no gentler sign, and takes all that it started with it.
  const end = () =>
    new Promise<void>((done) => {
      child.once('exit', () => done())
      child.kill('SIGKILL')
    })
  const areThere = async () => (await Promise.all(Object.values(ports).map(connects))).every(Boolean)
  if ((await within(patience, areThere)) === null) {
    await end()
    throw new Error(`The mail servers did not start: ${log()}`)
  }
  return { ports, certificateFile, log, end }
}
