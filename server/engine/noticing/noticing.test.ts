import { dirname } from 'node:path'
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import { simpleParser } from 'mailparser'
import { pino } from 'pino'
import request from 'supertest'
import { writtenLetter } from '#core/letters/authoring.ts'
import { exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { dayMs, hourMs } from '#core/time/calendar.ts'
import { readBooking } from '../../db/clientStore.ts'
import { readClientFacts } from '../../db/livingStore.ts'
import { readMessage } from '../../db/messageStore.ts'
import { visitsOfSend } from '../../db/visitStore.ts'
import { createApp } from '../../http/app.ts'
import { addBookedClient, addLive, call, openExample } from '../../testing/seed.ts'
import type { RunningApplication } from '../runningApplication.ts'

/* Links of messages that went, asked for as mail programs and scanners do. */

let running: RunningApplication
let app: ReturnType<typeof createApp>
let clientId: string

const letterId = 'lt_windy'
const targets = [
  'https://wind.example/today?at=9&in=m',
  'https://wind.example/kites',
  'http://map.example/#hill',
]

/** A letter with links of its own, to the booking, and out. */
function putWindy(more: { readonly isUnnoticed?: boolean } = {}) {
  const link = (field: 'link.booking' | 'link.optOut') =>
    ({ kind: 'field', field, ifMissing: { kind: 'hold' } }) as const
  const words = targets.map((target) => ({ kind: 'text', text: 'See there. ', link: target }) as const)
  const letter = writtenLetter({
    id: letterId,
    name: 'Windy',
    moment: 'booked',
    subject: [{ kind: 'text', text: 'The wind' }],
    sections: [
      {
        kind: 'text',
        paragraphs: [words, [link('link.booking'), { kind: 'text', text: ' ' }, link('link.optOut')]],
      },
    ],
    ...more,
  })
  running.application.apply([{ kind: 'put letter', letter, personId: null }])
  running.application.settings.forget()
}
const steps = () => {
  const once = exampleStep({ id: 'st_first', purpose: 'follow-up', letterId, timing: { kind: 'at once' } })
  const later = { kind: 'after previous', amount: 1, unit: 'days', atTime: null } as const
  const followed = { field: 'since the run started: followed a link', comparison: 'is', value: true } as const
  return [once, exampleStep({ ...once, id: 'st_later', timing: later, onlyIf: { none: [followed] } })]
}

beforeEach(async () => {
  running = await openExample()
  app = createApp(running, pino({ level: 'silent' }))
  putWindy()
  addLive(running.application, 'sq_ask', steps(), { on: 'booking confirmed' }, [])
})
afterEach(() => running.end())

const statements = () => running.application.store.statements

async function booked() {
  const { application, commands, pump } = running
  const id = addBookedClient(application, commands, 'enno', 'enno@brackwater.example')
  clientId = readBooking(statements(), id)?.clientId ?? ''
  await pump.advance(application.clock.now() + hourMs)
}

function facts() {
  const { settings, clock } = running.application
  const found = readClientFacts(statements(), clientId, 'everything', settings.required(), clock.now())
  if (!found) throw new Error('The client is gone')
  return found
}
const sendOf = (stepId: string) => {
  const found = facts().sends.find((one) => one.stepId === stepId)
  if (!found) throw new Error(`There is no message of ${stepId}`)
  return found
}

/** The page of the first message as it went. */
async function page(): Promise<string> {
  const source = readMessage(statements(), sendOf('st_first').id)?.source
  const parsed = await simpleParser(source ?? Buffer.alloc(0))
  return parsed.html || ''
}
const hrefs = (html: string) =>
  [...html.matchAll(/<a\b[^>]*? href="(https?:[^"]*)"/g)].map(([, href = '']) => href)
const pathOf = (url: string) => new URL(url).pathname
const noticedLinks = async () => hrefs(await page()).filter((url) => pathOf(url).startsWith('/to/'))

const did = () => facts().happenings.map(({ kind }) => kind)

describe('links of a message', () => {
  test('lead through ours to where the letter leads, the way out alone excepted', async () => {
    await booked()
    const html = await page()
    const links = hrefs(html)
    expect(links.length).toBeGreaterThan(2)
    const direct = links.filter((url) => !pathOf(url).startsWith('/to/'))
    expect(direct.map((url) => pathOf(url).split('/')[1])).toEqual(['choose'])
    const led: string[] = []
    for (const url of await noticedLinks()) {
      const answer = await request(app).get(pathOf(url)).expect(302)
      led.push(answer.headers['location'] ?? '')
      expect(answer.headers['cache-control']).toBe('no-store')
    }
    expect(led.slice(0, 3)).toEqual(targets)
    // Pages of the house itself are found where it is by then.
    expect(led[3]).toMatch(/^\/yours\/bk_/)
    expect(html).not.toContain('/seen/')
  })

  test('lead nowhere else: nothing in a link says where it goes, and one that is altered leads nowhere', async () => {
    await booked()
    const [url = ''] = await noticedLinks()
    const path = pathOf(url)
    await request(app)
      .get(`${path.slice(0, -1)}x`)
      .expect(404)
    await request(app).get(path.replace('~', '~x')).expect(404)
    await request(app).get('/to/https:%2F%2Felsewhere.example').expect(404)
    await request(app).get(`${path}?to=https://elsewhere.example`).expect(302)
    expect(visitsOfSend(statements(), sendOf('st_first').id)).toHaveLength(1)
  })

  test('followed by a person stop what waits for that, once it is told', async () => {
    await booked()
    const [url = ''] = await noticedLinks()
    await request(app).get(pathOf(url)).expect(302)
    expect(did()).toEqual([])
    await running.visits.settled()
    expect(did()).toEqual(['followed a link'])
    await running.pump.advance(running.application.clock.now() + 2 * dayMs)
    expect(sendOf('st_later').state).toBe('skipped')
    await request(app).get(pathOf(url)).expect(302)
    await running.visits.settled()
    expect(did()).toEqual(['followed a link', 'followed a link'])
  })

  test('followed again within the hour tell nothing new', async () => {
    await booked()
    const [url = ''] = await noticedLinks()
    for (let turn = 0; turn < 3; turn += 1) {
      await request(app).get(pathOf(url)).expect(302)
      await running.visits.settled()
    }
    expect(did()).toEqual(['followed a link'])
  })

  test('asked for by a program, all at once or by HEAD, stop nothing and are marked', async () => {
    await booked()
    const links = await noticedLinks()
    expect(new Set(links).size).toBeGreaterThan(2)
    for (const url of links) await request(app).get(pathOf(url)).expect(302)
    await request(app)
      .head(pathOf(links[0] ?? ''))
      .expect(302)
    await running.visits.settled()
    expect(did()).toEqual([])
    await running.pump.advance(running.application.clock.now() + 2 * dayMs)
    expect(sendOf('st_later').state).toBe('sent')
    const kept = visitsOfSend(statements(), sendOf('st_first').id)
    expect(kept.map(({ isPerson }) => isPerson)).toEqual(kept.map(() => false))
  })

  test('asked for without end are noted up to a limit, and all told', async () => {
    await booked()
    const [url = ''] = await noticedLinks()
    const { id: sendId } = sendOf('st_first')
    const [linkKey = ''] = /~([^.]+)\./.exec(url)?.slice(1) ?? []
    for (let turn = 0; turn < 260; turn += 1) running.visits.note({ sendId, linkKey, isHead: false })
    await running.visits.settled()
    const kept = visitsOfSend(statements(), sendId)
    expect(kept).toHaveLength(200)
    expect(kept.filter(({ isPerson }) => isPerson === null)).toEqual([])
    expect(did()).toEqual(['followed a link'])
  })

  test('are told of after a crash as well', async () => {
    await booked()
    const [url = ''] = await noticedLinks()
    await request(app).get(pathOf(url)).expect(302)
    const folder = dirname(running.application.store.file)
    await running.end()
    running = await openExample({ folder })
    await running.begin()
    await running.visits.settled()
    expect(did()).toEqual(['followed a link'])
  })
})

describe('what is noticed', () => {
  test('can be switched off for the business', async () => {
    expect(running.commands.setNoticing(call('setNoticing'), { links: false, opens: false }).ok).toBe(true)
    await booked()
    expect(await noticedLinks()).toEqual([])
  })

  test('can be switched off for a letter', async () => {
    putWindy({ isUnnoticed: true })
    await booked()
    expect(await noticedLinks()).toEqual([])
  })

  test('can be switched off for a client, by the client too, also of what went before', async () => {
    await booked()
    const [url = ''] = await noticedLinks()
    const choose = hrefs(await page()).find((one) => pathOf(one).startsWith('/choose/')) ?? ''
    const shown = await request(app).get(pathOf(choose)).expect(200)
    expect(shown.text).toContain('Do not look at what I follow')
    await request(app).post(pathOf(choose)).type('form').send({ about: 'notice' }).expect(200)
    expect(facts().client.takesPromotional).toBe(true)
    expect((await request(app).get(pathOf(choose))).text).toContain('It is not noticed which of our links')
    await request(app).get(pathOf(url)).expect(302)
    await running.visits.settled()
    expect(visitsOfSend(statements(), sendOf('st_first').id)).toEqual([])
    expect(did()).toEqual([])
    expect(running.commands.noticeClient(call('noticeClient'), clientId, true).ok).toBe(true)
    await request(app).get(pathOf(url)).expect(302)
    await running.visits.settled()
    expect(did()).toEqual(['followed a link'])
  })

  test('of opens is a picture of one dot, where that is switched on', async () => {
    expect(running.commands.setNoticing(call('setNoticing'), { links: true, opens: true }).ok).toBe(true)
    await booked()
    const picture = /<img src="([^"]*\/seen\/[^"]*)"/.exec(await page())?.[1] ?? ''
    const answer = await request(app).get(pathOf(picture)).expect(200).expect('Content-Type', 'image/gif')
    expect((answer.body as Buffer).subarray(0, 6).toString('latin1')).toBe('GIF89a')
    await running.visits.settled()
    expect(did()).toEqual(['opened'])
    await request(app).get('/seen/made-up.token').expect(200)
    await running.visits.settled()
    expect(did()).toEqual(['opened'])
  })
})
