import { expect, test } from '@jest/globals'
import { lookUpTexts } from './domainTexts.ts'

const fault = (code: string) => Object.assign(new Error(code), { code })

test('text records are one text each; a name without any has none; what could not be asked is not known', async () => {
  const asked: string[] = []
  const textsAt = await lookUpTexts(
    ['a.test.org', 'b.org', 'c.org', 'd.org', 'kiteworks.example'],
    (name) => {
      asked.push(name)
      if (name === 'a.test.org') return Promise.resolve([['v=spf1 ', '-all'], ['other']])
      return Promise.reject(fault(name === 'b.org' ? 'ENODATA' : name === 'c.org' ? 'ENOTFOUND' : 'ETIMEOUT'))
    },
  )
  expect(['a.test.org', 'b.org', 'c.org', 'd.org', 'kiteworks.example', 'e.org'].map(textsAt)).toEqual([
    ['v=spf1 -all', 'other'],
    [],
    [],
    null,
    null,
    null,
  ])
  // Names reserved for examples are asked of nobody.
  expect(asked).not.toContain('kiteworks.example')
})
