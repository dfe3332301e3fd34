import { describe, expect, test } from '@jest/globals'
import { noAllowance } from '../../model/allowance.ts'
import type { FurtherAccount } from '../../model/furtherAccount.ts'
import {
  examplePerson,
  exampleBusiness,
  exampleService,
  exampleSettings,
  exampleStep,
} from '../../rehearsal/exampleBusiness.ts'
import { realZones } from '../../time/realZones.ts'
import type { Settings } from '../../planning/slice.ts'
import type { RunFacts } from '../../planning/runFacts.ts'
import { accountOf } from './accountOf.ts'
import { senderOf } from './sender.ts'

const account = (id: string, part: Partial<FurtherAccount>): FurtherAccount => ({
  id,
  name: id,
  senderAddress: null,
  purposes: [],
  personIds: [],
  allowance: noAllowance,
  fallsBack: false,
  stepsIn: false,
  account: { host: 'smtp.place.example', port: 465, security: 'from the first byte', user: 'ada' },
  revision: 1,
  ...part,
})

const settings: Settings = {
  ...exampleSettings(realZones),
  mailAccounts: [
    account('ma_offers', { purposes: ['promotional'] }),
    account('ma_after', { purposes: ['follow-up', 'occasion'] }),
    account('ma_hers', { personIds: [examplePerson.id] }),
  ],
}
const step = (part: Parameters<typeof exampleStep>[0] | object) =>
  exampleStep({ id: 'st_1', purpose: 'reminder', timing: { kind: 'at once' }, ...part })
const through = (part: object, personInCharge: RunFacts['personInCharge'] = examplePerson) =>
  accountOf(step(part), { settings, personInCharge })?.id ?? null

describe('the account a message goes through', () => {
  test('is that of its purpose, else the main one', () => {
    expect(through({})).toBeNull()
    expect(through({ purpose: 'follow-up' })).toBe('ma_after')
    expect(through({ purpose: 'promotional' })).toBe('ma_offers')
  })

  test('is that of promotional messages for an occasion that offers something', () => {
    expect(through({ purpose: 'occasion' })).toBe('ma_after')
    expect(through({ purpose: 'occasion', isOffer: true })).toBe('ma_offers')
  })

  test('is that of who signs it, whatever its purpose; who is in charge and does not sign does not matter', () => {
    expect(through({ purpose: 'promotional', sender: 'person in charge' })).toBe('ma_hers')
    expect(through({ purpose: 'promotional', sender: 'person in charge' }, null)).toBe('ma_offers')
    expect(through({ purpose: 'reminder', sender: 'business' })).toBeNull()
  })
})

describe('in whose name the business sends', () => {
  const sender = { name: 'The flying school', replyTo: 'school@kiteworks.example' }
  const services = [{ ...exampleService, offer: { ...exampleService.offer, sender } }]
  const of = (part: Partial<RunFacts>): RunFacts =>
    ({
      settings: { ...settings, services },
      personInCharge: examplePerson,
      serviceId: null,
      ...part,
    }) as RunFacts

  test('is said by the service, where it says something; who signs does so in their own name', () => {
    const { senderAddress, senderName } = exampleBusiness
    const ofService = of({ serviceId: exampleService.id })
    expect(senderOf(step({}), ofService, 0)).toEqual({
      from: { name: sender.name, address: senderAddress },
      replyTo: sender.replyTo,
    })
    expect(senderOf(step({}), of({}), 0)).toEqual({
      from: { name: senderName, address: senderAddress },
      replyTo: null,
    })
    expect(senderOf(step({ sender: 'person in charge' }), ofService, 0)).toEqual({
      from: { name: examplePerson.name, address: senderAddress },
      replyTo: examplePerson.email,
    })
    expect(
      senderOf(step({ sender: 'person in charge' }), { ...ofService, personInCharge: null }, 0).from.name,
    ).toBe(sender.name)
  })
})
