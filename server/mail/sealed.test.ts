import { randomBytes } from 'node:crypto'
import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { seal, unseal } from './sealed.ts'

const key = randomBytes(32).toString('hex')
const other = randomBytes(32).toString('hex')

describe('what is sealed', () => {
  test('comes back as it was, whatever it is', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(unseal(seal(text, key), key)).toBe(text)
      }),
    )
  })

  test('is another seal each time, and tells nothing of the text', () => {
    const [one, again] = [seal('Blåbær på tur 7', key), seal('Blåbær på tur 7', key)]
    expect(one).not.toBe(again)
    expect(Buffer.from(one.split('.').at(-1) ?? '', 'base64url').toString('latin1')).not.toContain('tur')
  })

  test('does not open with another key, nor where one sign of it is another', () => {
    const sealed = seal('a long enough one', key)
    expect(unseal(sealed, other)).toBeNull()
    const signs = Array.from(sealed)
    for (let index = 3; index < signs.length - 1; index += 1) {
      const altered = signs.with(index, signs[index] === 'A' ? 'B' : 'A').join('')
      const opened = unseal(altered, key)
      // The last sign of each part carries bits that mean nothing (RFC 4648, 3.5).
      if (opened !== null)
        expect(Buffer.from(altered.split('.')[3] ?? '', 'base64url')).toEqual(
          Buffer.from(sealed.split('.')[3] ?? '', 'base64url'),
        )
    }
    expect(unseal('', key)).toBeNull()
    expect(unseal('v1.a.b', key)).toBeNull()
    expect(unseal('v2.a.b.c', key)).toBeNull()
  })

  test('opens as the standard’s own example is made (GCM specification, test case 16)', () => {
    // McGrew and Viega, "The Galois/Counter Mode of Operation": without additional data this is test case 15.
    const sample = {
      key: 'feffe9928665731c6d6a8f9467308308feffe9928665731c6d6a8f9467308308',
      nonce: 'cafebabefacedbaddecaf888',
      text:
        'd9313225f88406e5a55909c5aff5269a86a7a9531534f7da2e4c303d8a318a721c3c0c95956809532fcf0e2449a6b525' +
        'b16aedf5aa0de657ba637b391aafd255',
      sealed:
        '522dc1f099567d07f47f37a32a84427d643a8cdcbfe5c0c97598a2bd2555d1aa8cb08e48590dbb3da7b08b1056828838' +
        'c5f61e6393ba7a0abcc9f662898015ad',
      tag: 'b094dac5d93471bdec1a502270e3cc6c',
    }
    const parts = [sample.nonce, sample.tag, sample.sealed].map((hex) =>
      Buffer.from(hex, 'hex').toString('base64url'),
    )
    const text = unseal(['v1', ...parts].join('.'), sample.key)
    expect(text).toBe(Buffer.from(sample.text, 'hex').toString('utf8'))
  })
})
