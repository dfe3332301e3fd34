import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { expect, test } from '@jest/globals'
import { projectFolder } from './place.ts'

/* The documents name files: each of them is there, so that whoever looks where they say finds it. */

/** Made when it runs, not part of the project. */
const madeLater = ['business.json', '/api/openapi.json', 'keys.json']

const files = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard'], {
  cwd: projectFolder,
  encoding: 'utf8',
}).split('\n')

const documents = files.filter((file) => /^(README|docs\/\w+)\.md$/.test(file))

test.each(documents)('every file named in %s is there', (document) => {
  const text = readFileSync(new URL(`../${document}`, import.meta.url), 'utf8')
  const named = [...text.matchAll(/`([\w./-]+\.(?:tsx?|sql|txt|json))`/g)].map(([, name = '']) => name)
  const isThere = (name: string) => files.some((file) => file === name || file.endsWith(`/${name}`))
  expect(named.filter((name) => !madeLater.includes(name) && !isThere(name))).toEqual([])
})

test('there are documents that name files', () => {
  expect(documents.length).toBeGreaterThan(5)
})
