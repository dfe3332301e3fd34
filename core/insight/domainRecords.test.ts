import { describe, expect, test } from '@jest/globals'
import { domainRecords, namesToLookUp, type RecordKind } from './domainRecords.ts'

/* The examples of the RFCs are given from memory: RFC 7208 3, RFC 7489 B.2.1, RFC 6376 3.6.2.2 and C. */

const asked = { senderAddress: 'hello@Example.com', host: 'mail.example.com', selector: 'brisbane' }
const names = { SPF: 'example.com', DKIM: 'brisbane._domainkey.example.com', DMARC: '_dmarc.example.com' }

function verdict(what: RecordKind, ...texts: string[]) {
  const found = domainRecords(asked, (name) => (name === names[what] ? texts : []))
  return found.find((one) => one.what === what)
}

describe('the records of a domain', () => {
  test('stand at their names, and what to set is said', () => {
    const all = domainRecords(asked, () => [])
    expect(all.map(({ what, name, toSet, verdict: v }) => [what, name, toSet, v])).toEqual([
      ['SPF', names.SPF, 'v=spf1 a:mail.example.com ~all', 'missing'],
      ['DKIM', names.DKIM, null, 'missing'],
      ['DMARC', names.DMARC, 'v=DMARC1; p=none; rua=mailto:hello@Example.com', 'missing'],
    ])
    expect([...namesToLookUp(asked)].sort()).toEqual(Object.values(names).sort())
  })

  test.each<[RecordKind, string]>([
    ['SPF', 'v=spf1 +mx a:colo.example.com/28 -all'],
    ['SPF', 'v=spf1 redirect=_spf.example.com'],
    ['DMARC', 'v=DMARC1; p=none; rua=mailto:dmarc-feedback@example.com'],
    ['DMARC', 'v=DMARC1; p=reject'],
    ['DKIM', 'v=DKIM1; p=MIGfMA0GCSqGSIb3DQEBAQUAA4GNADCBiQKBgQDwIRP/UC3SBsEmGqZ9ZJW3/DkMoGeLnQg1fWn7/zYt'],
    ['DKIM', 'p=MIGfMA0GCSq GSIb3DQEB'],
  ])('%s: %s is there', (what, text) => {
    // Others have text records at the same name.
    expect(verdict(what, ...(what === 'DKIM' ? [] : ['some-verification=abc']), text)?.verdict).toBe('there')
  })

  test.each<[RecordKind, string, ...string[]]>([
    ['SPF', 'more than one', 'v=spf1 -all', 'v=spf1 mx -all'],
    ['SPF', 'everybody', 'v=spf1 mx +all'],
    ['SPF', 'everybody', 'v=spf1 mx all'],
    ['SPF', 'end it', 'v=spf1 mx'],
    ['DMARC', 'more than one', 'v=DMARC1; p=none', 'v=DMARC1; p=reject'],
    ['DMARC', 'policy', 'v=DMARC1; rua=mailto:a@example.com'],
    ['DMARC', 'policy', 'v=DMARC1; p=refuse'],
    ['DKIM', 'taken back', 'v=DKIM1; p='],
    ['DKIM', 'no key', 'v=DKIM2; p=MIG'],
    ['DKIM', 'no key', 'hello'],
    ['DKIM', 'more than one', 'p=MIG', 'p=MIH'],
  ])('%s is wrong, and why: %s', (what, why, ...texts) => {
    expect(verdict(what, ...texts)).toMatchObject({
      verdict: 'wrong',
      sentence: expect.stringContaining(why),
    })
  })

  test('that look like one and are none do not count', () => {
    expect(verdict('SPF', 'v=spf10 -all')?.verdict).toBe('missing')
    expect(verdict('DMARC', 'p=none; v=DMARC1')?.verdict).toBe('missing')
  })

  test('that could not be looked up are not said to be missing; without a selector there is no name to look at', () => {
    const all = domainRecords({ ...asked, selector: '', host: null }, () => null)
    expect(all.map(({ verdict: v, toSet }) => [v, toSet])).toEqual([
      ['not known', null],
      ['not known', null],
      ['not known', 'v=DMARC1; p=none; rua=mailto:hello@Example.com'],
    ])
  })
})
