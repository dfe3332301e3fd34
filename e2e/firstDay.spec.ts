import { mkdtempSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { expect, test, type Page } from '@playwright/test'
import { SMTPServer } from 'smtp-server'
import { ModuleKind, transpileModule } from 'typescript'
import { dayMs, minuteMs } from '#core/time/calendar.ts'
import { instantOfLocal, localAt } from '#core/time/localText.ts'
import { realZones } from '#core/time/realZones.ts'
import { makeCertificate, type OwnCertificate } from '#server/testing/ownCertificate.ts'
import type { Overview } from '#core/api/views.ts'
import { startServer } from './demoServer.ts'
import { counting } from './presses.ts'

interface Mailbox {
  readonly port: number
  /** Each message that came over TLS from somebody who signed in: to whom, and its source. */
  readonly taken: readonly { readonly to: string; readonly source: string }[]
  close(): void
}

const password = 'App “pass” word 9'

/** A mail server with TLS from the first byte, which wants a sign-in. */
async function startMailServer({ key, cert }: OwnCertificate): Promise<Mailbox> {
  const taken: { to: string; source: string }[] = []
  const server = new SMTPServer({
    secure: true,
    key,
    cert,
    onAuth: ({ username, password: given }, _, done) =>
      username === 'ada@kiteworks.example' && given === password
        ? done(null, { user: username })
        : done(new Error('Invalid username or password')),
    onData(stream, session, done) {
      const parts: Buffer[] = []
      stream.on('data', (part: Buffer) => parts.push(part))
      stream.on('end', () => {
        const to = session.envelope.rcptTo.map(({ address }) => address).join()
        taken.push({ to, source: session.secure ? Buffer.concat(parts).toString() : '' })
        done()
      })
    },
  })
  const port = await new Promise<number>((resolve) => {
    const { server: net } = server
    server.listen(0, '127.0.0.1', () => resolve((net.address() as AddressInfo).port))
  })
  return { port, taken, close: () => server.close() }
}

/** A zone in which it is late in the afternoon, whenever this runs: the reminder at 18:00 is not far off. */
function afternoonZone(): string {
  const isAfternoon = (name: string) => {
    const time = localAt(realZones.zone(name), Date.now()).slice(11)
    return time >= '16:30' && time < '17:30'
  }
  const found = realZones.names().find((name) => isAfternoon(name))
  if (found === undefined) throw new Error('It is afternoon nowhere')
  return found
}

/** The environment of a built server whose clock is as far ahead as a file says. */
function clockBy(folder: string, file: string) {
  const setClock = join(folder, 'setClock.mjs')
  const source = readFileSync('server/testing/setClock.ts', 'utf8')
  const { outputText } = transpileModule(source, { compilerOptions: { module: ModuleKind.ESNext } })
  writeFileSync(setClock, outputText)
  return { NODE_OPTIONS: `--import ${pathToFileURL(setClock).href}`, VORFREUDE_CLOCK_FILE: file }
}

/** The machine's clock, set on by steps that are no jump yet, each seen by the server before the next. */
async function setOn(page: Page, url: string, file: string, by: number) {
  const now = async () =>
    ((await (await page.request.get(`${url}api/overview`)).json()) as Overview).clock.now
  for (let ahead = 2 * minuteMs; ahead < by + 2 * minuteMs; ahead += 2 * minuteMs) {
    const wanted = Date.now() + ahead
    // Whole at every moment: half of it would be another time.
    writeFileSync(`${file}.next`, String(ahead))
    renameSync(`${file}.next`, file)
    await expect.poll(now, { intervals: [60] }).toBeGreaterThanOrEqual(wanted)
  }
}

test('from an empty page to a reminder in a real mailbox: at most 60 presses', async ({ page }) => {
  const certificate = await makeCertificate(['localhost', '127.0.0.1'])
  const mail = await startMailServer(certificate)
  const folder = mkdtempSync(join(tmpdir(), 'vorfreude-'))
  const clockFile = join(folder, 'ahead')
  writeFileSync(clockFile, '0')
  const server = await startServer('server/main', folder, {
    NODE_EXTRA_CA_CERTS: certificate.file,
    ...clockBy(folder, clockFile),
  })
  const hand = counting(page)
  const field = (name: string) => page.getByRole('textbox', { name, exact: true })
  const onPage = (title: string) => expect(page.getByRole('heading', { name: title })).toBeVisible()
  const zone = afternoonZone()
  try {
    await page.goto(server.url)
    await hand.type(page.getByLabel('Word from the terminal'), server.word)
    await hand.type(page.getByLabel('Your name'), 'Ada Windermeer')
    await hand.type(page.getByLabel('Your e-mail address'), 'ada@kiteworks.example')
    await hand.type(field('Password'), 'a long enough one')
    await hand.button('Next')
    await hand.type(page.getByLabel('Name', { exact: true }), 'Kiteworks')
    await hand.choose('Time zone', zone)
    await hand.type(page.getByLabel('Messages come from (e-mail address)'), 'hello@kiteworks.example')
    await hand.type(page.getByLabel('Postal address'), 'Dune Road 1, 00000 Sandby')
    await hand.button('Next')
    await hand.type(page.getByLabel('Name of the service'), 'Kite lesson')
    await hand.button('Begin')

    // A page each, with what is missing beside it.
    const steps = page.getByRole('navigation', { name: 'First steps' })
    await onPage('The business and its hours')
    await expect(steps.getByText('is missing')).toHaveCount(5)
    await hand.link('Next')
    await onPage('A service clients can book')
    await hand.link('Next')
    await onPage('A mail account to send through')
    await hand.type(field('Server'), 'localhost')
    await hand.type(page.getByLabel('Port'), String(mail.port))
    await hand.type(field('User'), 'ada@kiteworks.example')
    await hand.type(field('Password'), 'not this one')
    await hand.button('Try it')
    const said = page.getByRole('status', { name: 'What the server said' })
    await expect(said).toContainText('It refuses the user or the password.')
    await expect(said).toContainText('It says: 535')
    await hand.type(field('Password'), password)
    await hand.button('Try it')
    await expect(said).toContainText('It took the copy.')
    expect(mail.taken.map(({ to }) => to)).toEqual(['ada@kiteworks.example'])
    await hand.button('Use this account')
    await expect(page.getByText('Messages are real from now on, so sending is held back.')).toBeVisible()
    await hand.link('Next')
    await onPage('The web address where clients reach you')
    await hand.type(field('Web address'), 'https://booking.kiteworks.example')
    await hand.button('Keep this address')
    await hand.link('Next')

    // The letters are read, the sequence goes live, and all of it is seen before any client gets it.
    await onPage('A sequence that is live, its letters read')
    await hand.press(page.getByRole('button', { name: 'I have read it: publish it' }).first())
    await expect(page.getByText('✓ published')).toHaveCount(1)
    await hand.press(page.getByRole('button', { name: 'I have read it: publish it' }))
    await expect(page.getByText('✓ published')).toHaveCount(2)
    await hand.button('Let it go live')
    await expect(page.getByRole('region', { name: 'What is live' })).toBeVisible()
    await hand.link('Next')
    await onPage('A rehearsal to your own address')
    await hand.button('Send me the rehearsal')
    await expect(page.getByText('2 messages went to ada@kiteworks.example.')).toBeVisible()
    expect(mail.taken.map(({ to }) => to)).toEqual(Array<string>(3).fill('ada@kiteworks.example'))
    await hand.link('Next')
    await onPage('Sending switched on')
    await hand.button('Switch sending on')
    await expect(page.getByRole('button', { name: 'Sending on', exact: true })).toBeVisible()
    await expect(steps.getByText('is missing')).toHaveCount(0)

    await hand.link('Clients')
    await hand.button('Add a client')
    await hand.type(page.getByLabel('First name'), 'Wenzel')
    await hand.type(page.getByLabel('Last name'), 'Ohnesorg')
    await hand.type(page.getByLabel('E-mail address'), 'wenzel@ohnesorg.nowhere.net')
    await hand.button('Add the client')
    await hand.button(/New booking|Book/)
    const tomorrow = localAt(realZones.zone(zone), Date.now() + dayMs).slice(0, 10)
    await hand.type(page.getByLabel('Date'), tomorrow)
    await hand.key('Tab')
    await hand.type(page.getByLabel('Start: hours'), '10')
    await hand.type(page.getByLabel('Start: minutes'), '00')
    await hand.button('Make the booking')
    await expect(page.getByRole('heading', { name: /Wenzel Ohnesorg/ })).toBeVisible()

    // Both wait for a look.
    await hand.link('Desk')
    await expect(page.getByRole('link', { name: 'Decide 2' })).toBeVisible()
    await hand.button(/^Approve/)
    await expect(page.getByRole('link', { name: 'Decide 1' })).toBeVisible()
    await hand.button(/^Approve/)
    expect(hand.count()).toBeLessThanOrEqual(60)
    const toClient = () => mail.taken.filter(({ to }) => to === 'wenzel@ohnesorg.nowhere.net')
    await expect.poll(() => toClient().length).toBe(1)
    expect(toClient()[0]?.source).toContain('https://booking.kiteworks.example/')
    // Not before its time, and then it is there.
    const today = localAt(realZones.zone(zone), Date.now()).slice(0, 10)
    const reminderAt = instantOfLocal(realZones.zone(zone), `${today}T18:00`)
    await setOn(page, server.url, clockFile, reminderAt - Date.now())
    await expect.poll(() => toClient().length).toBe(2)
    expect(toClient()[1]?.source).toMatch(/^Subject: Kite lesson: tomorrow at 10:00/m)
  } finally {
    await server.stop()
    mail.close()
  }
})
