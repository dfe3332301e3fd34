import { mkdtempSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { SMTPServer } from 'smtp-server'
import { dayMs } from '#core/time/calendar.ts'
import { makeCertificate, type OwnCertificate } from '#server/testing/ownCertificate.ts'
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

test('from an empty page to a message in a real mailbox: at most 60 presses', async ({ page }) => {
  const certificate = await makeCertificate(['localhost', '127.0.0.1'])
  const mail = await startMailServer(certificate)
  const folder = mkdtempSync(join(tmpdir(), 'vorfreude-'))
  const server = await startServer('server/main', folder, { NODE_EXTRA_CA_CERTS: certificate.file })
  const hand = counting(page)
  const field = (name: string) => page.getByRole('textbox', { name, exact: true })
  try {
    await page.goto(server.url)
    await hand.type(page.getByLabel('Word from the terminal'), server.word)
    await hand.type(page.getByLabel('Name', { exact: true }), 'Kiteworks')
    await hand.type(page.getByLabel('Messages come from (e-mail address)'), 'hello@kiteworks.example')
    await hand.type(page.getByLabel('Postal address'), 'Dune Road 1, 00000 Sandby')
    await hand.type(page.getByLabel('Your name'), 'Ada Windermeer')
    await hand.type(page.getByLabel('Your e-mail address'), 'ada@kiteworks.example')
    await hand.type(field('Password'), 'a long enough one')
    await hand.type(page.getByLabel('Name of the service'), 'Kite lesson')
    await hand.button('Begin')

    // What is missing stands on the first page, each with its way.
    const missing = page.getByRole('region', { name: 'Until messages reach clients' })
    await expect(missing.getByRole('listitem').filter({ hasText: 'is missing' })).toHaveCount(3)
    await hand.press(missing.getByRole('link', { name: 'A mail account to send through' }))
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
    await expect(page.getByText('Nothing goes out: the links in messages would lead nowhere.')).toBeVisible()
    await hand.type(field('Web address'), 'https://booking.kiteworks.example')
    await hand.button('Keep this address')
    await expect(page.getByText('Nothing goes out: the links in messages would lead nowhere.')).toHaveCount(0)

    // Nobody gets anything until the owner says so.
    await hand.button(/Held back/)
    await hand.button('Switch sending on')
    await expect(page.getByRole('button', { name: 'Sending on', exact: true })).toBeVisible()
    await hand.link('Clients')
    await hand.button('Add a client')
    await hand.type(page.getByLabel('First name'), 'Wenzel')
    await hand.type(page.getByLabel('Last name'), 'Ohnesorg')
    await hand.type(page.getByLabel('E-mail address'), 'wenzel@ohnesorg.nowhere.net')
    await hand.button('Add the client')
    await hand.button(/New booking|Book/)
    const inAWeek = new Date(Date.now() + 7 * dayMs).toISOString().slice(0, 10)
    await hand.type(page.getByLabel('Date'), inAWeek)
    await hand.key('Tab')
    await hand.type(page.getByLabel('Start: hours'), '10')
    await hand.type(page.getByLabel('Start: minutes'), '00')
    await hand.button('Make the booking')
    await expect.poll(() => mail.taken.length, { timeout: 60_000 }).toBe(2)
    expect(mail.taken[1]?.to).toBe('wenzel@ohnesorg.nowhere.net')
    expect(mail.taken[1]?.source).toContain('https://booking.kiteworks.example/')
    expect(hand.count()).toBeLessThanOrEqual(60)
  } finally {
    await server.stop()
    mail.close()
  }
})
