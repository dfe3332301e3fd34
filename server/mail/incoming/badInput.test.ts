import { gzipSync } from 'node:zlib'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { kindOf } from '#core/incoming/kindOf.ts'
import { incoming } from '#core/model/incoming.ts'
import { epochDayOf } from '#core/time/calendar.ts'
import { incomingAtDesk } from '../../db/incomingStore.ts'
import type { RunningApplication } from '../../engine/runningApplication.ts'
import { chanceFrom } from '../../testing/chance.ts'
import { handOver } from '../../testing/handOver.ts'
import { complaintAbout, deliveryReport, invitationReply, mailOf } from '../../testing/mails.ts'
import { openExample } from '../../testing/seed.ts'
import { keyOf } from './keyOf.ts'
import { createReader } from './reader.ts'
import { readMail } from './readMail.ts'
import { fileAt, htmlOf } from './shownParts.ts'

/* What nobody should send, and somebody does. */

const nobody = { from: null, to: [], cut: null }
const today = epochDayOf('2026-05-14')

const withFile = (name: string) =>
  mailOf({
    headers: ['MIME-Version: 1.0', 'Content-Type: multipart/mixed; boundary="b"'],
    text: `--b\nContent-Type: text/plain\n\nHere it is.\n--b\nContent-Type: application/pdf\nContent-Disposition: attachment; filename="${name}"\n\nPDF\n--b--`,
  })

describe('what is read', () => {
  test('a file named to lead elsewhere has a name that does not', async () => {
    const { files } = await readMail(withFile('../../etc/x'), nobody)
    expect(files).toEqual([{ name: 'etc x', type: 'application/pdf', bytes: 3 }])
    expect(await fileAt(withFile('..\\\\..\\\\x.exe'), 0)).toMatchObject({ bytes: Buffer.from('PDF') })
    expect(await fileAt(withFile('x'), 7)).toBeNull()
  })

  test('a subject with control characters, and one that turns the order of letters around, is one plain line', async () => {
    const { subject } = await readMail(
      mailOf({ subject: '=?utf-8?Q?a=0D=0ABcc=3A_x=07=E2=80=AEcod.exe?=' }),
      nobody,
    )
    expect(subject).toBe('a Bcc: x cod.exe')
  })

  test('broken encodings are read as far as they can be', async () => {
    const broken = mailOf({
      subject: '=?utf-8?B?not-base64!!?=',
      headers: [
        'MIME-Version: 1.0',
        'Content-Type: text/plain; charset=x-nobody-knows',
        'Content-Transfer-Encoding: base64',
      ],
      text: '%%%%not base64%%%%',
    })
    const mail = await readMail(broken, nobody)
    expect(typeof mail.text).toBe('string')
    expect(kindOf(mail, today).kind).not.toBe('delivery report')
  })

  test('HTML with scripts and pictures is given out as it is, for a frame in which nothing runs', async () => {
    const html = '<script>alert(1)</script><img src="https://track.test/x.png"><p>Hello</p>'
    const mail = mailOf({
      headers: ['MIME-Version: 1.0', 'Content-Type: text/html; charset=utf-8'],
      text: html,
    })
    expect(await htmlOf(mail)).toContain('<p>Hello</p>')
    expect((await readMail(mail, nobody)).text).toContain('Hello')
  })

  test('the same mail on another way has the same key; another one has not', () => {
    const mail = mailOf({ messageId: '<one@place.test>' })
    const traced = Buffer.concat([Buffer.from('Received: from x\r\nX-Spam: no\r\n'), mail])
    expect(keyOf(traced)).toBe(keyOf(mail))
    expect(keyOf(mailOf({ messageId: '<two@place.test>' }))).not.toBe(keyOf(mail))
    expect(keyOf(mailOf({ messageId: null, text: 'a' }))).not.toBe(
      keyOf(mailOf({ messageId: null, text: 'b' })),
    )
  })
})

/** Parts within parts, as deep as that. */
function nested(depth: number): Buffer {
  const open = Array.from(
    { length: depth },
    (_, at) => `Content-Type: multipart/mixed; boundary="b${at}"\n\n--b${at}\n`,
  )
  return mailOf({
    headers: ['MIME-Version: 1.0', 'Content-Type: multipart/mixed; boundary="top"'],
    text: `--top\n${open.join('')}Content-Type: text/plain\n\ndeep\n`,
  })
}

describe('a thread that reads', () => {
  const reader = createReader({ mostMs: 15_000, mostMb: 256 })
  afterAll(() => reader.end())

  test.each([
    ['nested thousands deep', nested(3000)],
    [
      'of thousands of parts',
      mailOf({
        headers: ['MIME-Version: 1.0', 'Content-Type: multipart/mixed; boundary="p"'],
        text: Array.from({ length: 20_000 }, () => '--p\nContent-Type: text/plain\n\nx\n').join(''),
      }),
    ],
    [
      'with a packed part that would grow a thousandfold',
      mailOf({
        headers: ['MIME-Version: 1.0', 'Content-Type: application/gzip', 'Content-Transfer-Encoding: base64'],
        text: gzipSync(Buffer.alloc(20_000_000)).toString('base64'),
      }),
    ],
    ['with a header of a megabyte', mailOf({ headers: [`X-Long: ${'x'.repeat(1_000_000)}`] })],
  ])('gets through or gives up on a mail %s, and goes on', async (_, source) => {
    const mail = await reader.read(source, nobody)
    expect(mail.subject).toBe('Re: Your lesson')
    expect((await reader.read(mailOf({ subject: 'The next one' }), nobody)).subject).toBe('The next one')
  })

  test('gives up on what takes too long, says so, and goes on', async () => {
    const hasty = createReader({ mostMs: 1, mostMb: 256 })
    const mail = await hasty.read(mailOf({ subject: 'Slow' }), nobody)
    expect(mail).toMatchObject({
      subject: 'Slow',
      cut: 'It takes too long to read: look at it in your mail program.',
    })
    expect(kindOf(mail, today)).toMatchObject({ kind: 'unclear' })
    await hasty.end()
  })
})

const count = process.env['VORFREUDE_FULL'] === 'yes' ? 5_000 : 250

/** A mail with some bytes of it changed, left out, doubled, or put elsewhere. */
function mutated(source: Buffer, chance: () => number): Buffer {
  let text = source.toString('latin1')
  const at = () => Math.floor(chance() * text.length)
  const pieces = [
    '\u0000',
    '\r\n',
    '\n\n',
    '--',
    'Content-Type: ',
    '=?utf-8?B?',
    '<',
    '>',
    'From: ',
    'ÿ',
    '%',
    ';',
    '"',
  ]
  for (let turn = 0; turn < 1 + chance() * 8; turn += 1) {
    const [from, to] = [at(), at()].toSorted((a, b) => a - b)
    const kind = Math.floor(chance() * 4)
    if (kind === 0) text = text.slice(0, from) + text.slice(Math.min(to ?? 0, (from ?? 0) + 200))
    else if (kind === 1) text = text.slice(0, to) + text.slice(from)
    else text = text.slice(0, from) + (pieces[Math.floor(chance() * pieces.length)] ?? '') + text.slice(from)
  }
  return Buffer.from(text, 'latin1')
}

describe(`${count} mutated mails through the whole way in`, () => {
  let running: RunningApplication
  beforeAll(async () => {
    running = await openExample()
  })
  afterAll(() => running.end())

  test('none is lost unseen, and nothing falls over', async () => {
    const chance = chanceFrom(20260514)
    const seeds = [
      mailOf(),
      withFile('x.pdf'),
      deliveryReport({ about: '<sd_1@kiteworks.example>' }),
      complaintAbout('<sd_1@kiteworks.example>'),
      invitationReply('bk_1@kiteworks.example', 'DECLINED'),
    ]
    const keys = new Set<string>()
    for (let turn = 0; turn < count; turn += 1) {
      const source = mutated(seeds[turn % seeds.length] ?? mailOf(), chance)
      keys.add(keyOf(source))
      running.incoming.take(source, {
        by: 'test',
        from: turn % 3 === 0 ? '' : null,
        to: [],
        isOld: false,
        cut: null,
      })
    }
    await running.incoming.settled()
    expect(running.incoming.isBehind()).toBe(false)
    const rows = running.application.store.statements
    const placed = (['decide', 'trouble', 'to-do'] as const).flatMap((place) =>
      incomingAtDesk(rows, { place, afterId: null, limit: 10_000 }),
    )
    for (const one of placed) expect(incoming.safeParse(one).success).toBe(true)
    expect(placed.length).toBeGreaterThan(0)
    expect(rows.unreadable.size).toBe(0)
    expect(keys.size).toBeGreaterThan(count / 2)
  }, 600_000)

  test('one of 30 MB is refused with the limit, and one to nobody here as well', async () => {
    const port = running.listener?.port ?? 0
    const large = mailOf({ text: 'x'.repeat(76).concat('\n').repeat(400_000) })
    expect(await handOver(port, large)).toMatch(/^552/)
    expect(await handOver(port, mailOf(), { to: 'nobody@kiteworks.example' })).toMatch(/^550/)
    expect(await handOver(port, mailOf(), { to: 'hello+anything@kiteworks.example' })).toMatch(/^250/)
  })
})
