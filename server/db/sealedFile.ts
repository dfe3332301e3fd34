import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from 'node:crypto'
import { closeSync, openSync, readSync, statSync, writeSync } from 'node:fs'
import { done, refused, type Result } from '#core/model/problem.ts'
import { writeAside } from './writeAside.ts'

/*
 * A file that only whoever knows its words can read: AES-256-GCM (NIST SP 800-38D) with a key made from the words by
 * scrypt (RFC 7914). It begins with a mark, the salt and the nonce, and ends with the tag, so that what was altered, or
 * ends in the middle, does not open.
 */

const mark = Buffer.from('VORFREUDE SEALED 1\n')
const saltBytes = 16
/** SP 800-38D 8.2.2: 96 bits, random. */
const nonceBytes = 12
const tagBytes = 16
const headBytes = mark.length + saltBytes + nonceBytes
const chunkBytes = 1 << 20
/** 64 MB of memory for one guess (RFC 7914 2: N a power of two, r 8, p 1). */
const cost = { N: 1 << 16, r: 8, p: 1, maxmem: 160 << 20 }
const way = 'aes-256-gcm'

/** How long the words have to be at least. */
const shortestWords = 12

export const sealedEnding = '.sealed'

/** The words backups are sealed with, as they are given at the start. */
export const readBackupWords = (text: string): Result<string> =>
  text.trim().length < shortestWords
    ? refused(
        'invalid',
        `VORFREUDE_BACKUP_WORDS is too short to seal backups with: ${shortestWords} characters at least, best some words nobody says together.`,
      )
    : done(text.trim())

const keyOf = (words: string, salt: Buffer) => scryptSync(words.normalize('NFC'), salt, 32, cost)

/** Reads a stretch of a file, chunk by chunk. */
function* chunksOf(descriptor: number, from: number, to: number): Generator<Buffer> {
  for (let at = from; at < to;) {
    const chunk = Buffer.alloc(Math.min(chunkBytes, to - at))
    const read = readSync(descriptor, chunk, 0, chunk.length, at)
    if (read === 0) throw new Error('the file ends in the middle')
    yield chunk.subarray(0, read)
    at += read
  }
}

function writeAll(descriptor: number, bytes: Buffer) {
  for (let at = 0; at < bytes.length;) at += writeSync(descriptor, bytes, at)
}

/** Runs with some files open, and closes them however it ends. */
function withFiles<Value>(
  files: readonly (readonly [path: string, flags: 'r' | 'wx'])[],
  work: (...descriptors: number[]) => Value,
): Value {
  const open: number[] = []
  try {
    for (const [path, flags] of files) open.push(openSync(path, flags, 0o600))
    return work(...open)
  } finally {
    open.forEach((descriptor) => closeSync(descriptor))
  }
}

/** Seals a file into another by words. */
export function sealFile(from: string, to: string, words: string) {
  writeAside(to, (path) =>
    withFiles(
      [
        [from, 'r'],
        [path, 'wx'],
      ],
      (source = 0, target = 0) => {
        const [salt, nonce] = [randomBytes(saltBytes), randomBytes(nonceBytes)]
        const cipher = createCipheriv(way, keyOf(words, salt), nonce)
        writeAll(target, Buffer.concat([mark, salt, nonce]))
        for (const chunk of chunksOf(source, 0, statSync(from).size)) writeAll(target, cipher.update(chunk))
        writeAll(target, Buffer.concat([cipher.final(), cipher.getAuthTag()]))
      },
    ),
  )
}

/** Goes over what is sealed in a file; throws where the words are others, or it was altered or is not whole. */
function opened(path: string, words: string, take: (plain: Buffer) => void) {
  withFiles([[path, 'r']], (source = 0) => {
    const { size } = statSync(path)
    const [head = Buffer.alloc(0)] = size < headBytes + tagBytes ? [] : chunksOf(source, 0, headBytes)
    if (!head.subarray(0, mark.length).equals(mark)) throw new Error('it is no sealed backup of Vorfreude')
    const salt = head.subarray(mark.length, mark.length + saltBytes)
    const decipher = createDecipheriv(way, keyOf(words, salt), head.subarray(mark.length + saltBytes), {
      authTagLength: tagBytes,
    })
    decipher.setAuthTag(Buffer.concat([...chunksOf(source, size - tagBytes, size)]))
    for (const chunk of chunksOf(source, headBytes, size - tagBytes)) take(decipher.update(chunk))
    try {
      take(decipher.final())
    } catch {
      throw new Error('the words do not fit, or the file is damaged')
    }
  })
}

/** Opens a sealed file into another, all of it or nothing. */
export function unsealFile(from: string, to: string, words: string) {
  writeAside(to, (path) =>
    withFiles([[path, 'wx']], (target = 0) => {
      opened(from, words, (plain) => writeAll(target, plain))
    }),
  )
}

/** Reads a sealed file to its end, and throws where it would not open. */
export function checkSealed(path: string, words: string) {
  opened(path, words, () => undefined)
}
