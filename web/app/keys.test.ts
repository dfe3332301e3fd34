import { expect, test } from '@jest/globals'
import { deskKeys, keysAt, keysEverywhere } from './keys.ts'

test('each key of the Desk stands for one act', () => {
  const keys = Object.values(deskKeys)
  expect(new Set(keys).size).toBe(keys.length)
})

test.each([
  ['/desk/to-do/ta_1', 'To do'],
  ['/desk/decide', 'Deciding'],
  ['/desk/decide/sd_1', 'Deciding'],
  ['/desk', 'Deciding'],
  ['/desk/trouble/sd_1', 'Trouble'],
  ['/desk/went-out', undefined],
  ['/sequence/sq_1', 'A sequence'],
  ['/letter/lt_1', 'A letter'],
  ['/letters', undefined],
  ['/clients', undefined],
])('at %s stand the keys of %s', (pathname, name) => {
  expect(keysAt(pathname)?.name).toBe(name)
})

test('no key of a screen is one that counts everywhere', () => {
  const everywhere = keysEverywhere.map(({ key }) => key)
  for (const at of ['/desk/decide', '/desk/to-do', '/sequence/x', '/letter/x']) {
    for (const { key } of keysAt(at)?.keys ?? []) expect(everywhere).not.toContain(key)
  }
})
