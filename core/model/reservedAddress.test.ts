import { expect, test } from '@jest/globals'
import { reservedEndingOf } from './reservedAddress.ts'

// RFC 2606, sections 2 and 3; RFC 6761, section 6.
test.each([
  ['name@place.example', 'example'],
  ['name@EXAMPLE', 'example'],
  ['name@example.com', 'example.com'],
  ['name@mail.example.org', 'example.org'],
  ['name@host.test', 'test'],
  ['name@nowhere.invalid', 'invalid'],
  ['root@localhost', 'localhost'],
])('%s cannot be real', (address, ending) => {
  expect(reservedEndingOf(address)).toBe(ending)
})

test.each(['name@myexample.com', 'name@example.de', 'name@example.com.au', 'test@contest.org'])(
  '%s may be real',
  (address) => {
    expect(reservedEndingOf(address)).toBeNull()
  },
)
