import { afterEach, describe, expect, test } from '@jest/globals'
import { simpleParser } from 'mailparser'
import { hourMs, minuteMs } from '#core/time/calendar.ts'
import {
  addBookedClient,
  call,
  clientInput,
  openExample,
  testFolder,
  writeExampleBusiness,
} from '../../testing/seed.ts'
import { backOffMs } from './backOff.ts'
import { openApplication, OptionsError, type RunningApplication } from '../runningApplication.ts'

const startsAt = Date.UTC(2026, 4, 14, 5, 40)
let running: RunningApplication | null = null

async function open(): Promise<RunningApplication> {
  running = await openExample()
  return running
}

afterEach(async () => {
  await running?.end()
  running = null
})

const states = ({ application }: RunningApplication) =>
  application.store.statements.all('listByTime', {
    from: 0,
    to: 1e15,
    clientId: null,
    serviceId: null,
    sequenceId: null,
    letterId: null,
    offset: 0,
    statesJson: JSON.stringify(['ready', 'sent', 'failed', 'in doubt', 'missed', 'cancelled', 'blocked']),
    limit: 1000,
  })

const stateOf = (of: RunningApplication, purpose: string) =>
  states(of).find((row) => row['purpose'] === purpose)?.['state']

async function settle({ pump, application }: RunningApplication, to = application.clock.now()) {
  await pump.advance(to)
}

describe('a message through the post office', () => {
  test('arrives as it was composed, with the Message-ID that is stored', async () => {
    const application = await open()
    addBookedClient(application.application, application.commands, 'Oona', 'oona@siltanen.example')
    await settle(application)
    const [mail] = application.postOffice?.mailOf('oona@siltanen.example') ?? []
    const parsed = await simpleParser(mail?.source ?? '')
    const stored = application.application.store.statements.all('sendsOfClient', {
      clientId: String(states(application)[0]?.['clientId']),
    })
    expect(parsed.messageId).toBe(stored.find((row) => row['state'] === 'sent')?.['messageId'])
    expect(parsed.text).toContain('Hello Oona,')
    expect(parsed.text).toContain('Tuesday 19 May 2026')
  })

  test('goes at exactly its time as the clock is moved', async () => {
    const application = await open()
    addBookedClient(application.application, application.commands, 'Oona', 'oona@siltanen.example')
    const due = Date.UTC(2026, 4, 18, 16, 0)
    await settle(application, due - 1)
    expect(application.postOffice?.mailOf('oona@siltanen.example')).toHaveLength(1)
    await settle(application, due + 5 * hourMs)
    expect(application.postOffice?.mailOf('oona@siltanen.example')[0]?.receivedAt).toBe(due)
    expect(application.application.clock.now()).toBe(due + 5 * hourMs)
  })
})

describe('a mailbox that', () => {
  const address = 'oona@siltanen.example'

  test('refuses: the message has failed, with the words of the server', async () => {
    const application = await open()
    application.postOffice?.setBehaviour(address, 'refuse')
    addBookedClient(application.application, application.commands, 'Oona', address)
    await settle(application)
    expect(stateOf(application, 'confirmation')).toBe('failed')
    expect(String(states(application)[0]?.['reasonJson'])).toContain('5.1.1')
  })

  test('asks to come back: it is tried again later and goes once', async () => {
    const application = await open()
    application.postOffice?.setBehaviour(address, 'later')
    addBookedClient(application.application, application.commands, 'Oona', address)
    await settle(application)
    expect(stateOf(application, 'confirmation')).toBe('ready')
    application.postOffice?.setBehaviour(address, null)
    await settle(application, startsAt + 10 * minuteMs)
    expect(stateOf(application, 'confirmation')).toBe('sent')
    expect(application.postOffice?.mailOf(address)).toHaveLength(1)
  })

  test('never takes it: after the last attempt it has failed', async () => {
    const application = await open()
    application.postOffice?.setBehaviour(address, 'drop before data')
    addBookedClient(application.application, application.commands, 'Oona', address, 3)
    await settle(application, startsAt + 24 * hourMs)
    expect(stateOf(application, 'confirmation')).toBe('failed')
    expect(application.postOffice?.mailOf(address)).toHaveLength(0)
  })

  test('loses the line after the final dot: it is in doubt, and never sent again by itself', async () => {
    const application = await open()
    application.postOffice?.setBehaviour(address, 'drop after data')
    addBookedClient(application.application, application.commands, 'Oona', address)
    await settle(application, startsAt + 24 * hourMs)
    expect(stateOf(application, 'confirmation')).toBe('in doubt')
    expect(application.postOffice?.mailOf(address)).toHaveLength(1)
  })
})

describe('the master switch', () => {
  test('held back, nothing leaves; on again, what was missed is listed and not sent', async () => {
    const application = await open()
    application.commands.setSending(call('setSending'), false)
    addBookedClient(application.application, application.commands, 'Oona', 'oona@siltanen.example')
    addBookedClient(application.application, application.commands, 'Jules', 'jules@okonjo.example')
    await settle(application, startsAt + 8 * hourMs)
    expect(application.postOffice?.mailOf('oona@siltanen.example')).toHaveLength(0)
    const on = application.commands.setSending(call('setSending'), true)
    expect(on).toEqual({ ok: true, value: { isOn: true, missed: 2 } })
    await settle(application)
    expect(application.postOffice?.mailOf('oona@siltanen.example')).toHaveLength(0)
    expect(stateOf(application, 'confirmation')).toBe('missed')
    expect(stateOf(application, 'reminder')).toBe('ready')
  })
})

describe('commands', () => {
  test('repeated under one id have one effect and one answer', async () => {
    const application = await open()
    const once = call('addClient')
    const data = clientInput('Oona', null)
    const first = application.commands.addClient(once, data)
    const second = application.commands.addClient(once, data)
    expect(second).toEqual(first)
    expect(application.application.store.statements.all('allClientIds')).toHaveLength(1)
    const other = application.commands.setSending({ ...once, name: 'setSending' }, false)
    expect(other).toMatchObject({ ok: false, problem: { code: 'invalid' } })
  })
})

describe('the options', () => {
  test('a movable clock and a real mail account are refused together', async () => {
    const both = openApplication({
      folder: testFolder(),
      isDemo: true,
      smtpUrl: 'smtp://mail.example',
      onFault: () => undefined,
    })
    await expect(both).rejects.toThrow(OptionsError)
  })

  test('while links would lead nowhere nothing goes out, and the switch says why', async () => {
    running = await openApplication({
      folder: testFolder(),
      isDemo: false,
      smtpUrl: 'smtp://127.0.0.1:9',
      needsPublicUrl: true,
      onFault: () => undefined,
    })
    const { application, commands } = running
    application.store.transaction(() => writeExampleBusiness(application.store.statements))
    application.settings.forget()
    addBookedClient(application, commands, 'Oona', 'oona@siltanen.nowhere', 5)
    await running.begin()
    expect(application.settings.required().isSendingOn).toBe(false)
    expect(application.store.statements.all('abandonedClaims')).toEqual([])
    expect(commands.setSending(call('setSending'), true)).toMatchObject({
      ok: false,
      problem: { sentence: expect.stringContaining('the links in messages would lead nowhere') },
    })
  })

  test('the wait before the next attempt doubles up to an hour, spread by up to a quarter', () => {
    expect(backOffMs(1, 0)).toBe(minuteMs)
    expect(backOffMs(3, 0)).toBe(4 * minuteMs)
    expect(backOffMs(30, 0)).toBe(hourMs)
    expect(backOffMs(1, 0.999)).toBeLessThanOrEqual(1.25 * minuteMs)
  })
})
