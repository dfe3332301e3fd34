import { readFileSync } from 'node:fs'
import { expect, test } from '@jest/globals'

/* The list of licences says what ships: it is made from the lockfile, and has to be made anew with it. */

interface Locked {
  readonly license?: string
  readonly dev?: boolean
  readonly devOptional?: boolean
}

const read = (path: string) => readFileSync(new URL(`../${path}`, import.meta.url), 'utf8')

function linesFromLock(): string[] {
  const { packages } = JSON.parse(read('package-lock.json')) as { packages: Record<string, Locked> }
  const byLicence = new Map<string, Set<string>>()
  for (const [path, { license, dev, devOptional }] of Object.entries(packages)) {
    const name = path.split('node_modules/').at(-1) ?? ''
    if (name === '' || dev || devOptional) continue
    const licence = license ?? 'none said'
    byLicence.set(licence, (byLicence.get(licence) ?? new Set()).add(name))
  }
  return [...byLicence].map(([licence, names]) => `- **${licence}**: ${[...names].sort().join(', ')}`).sort()
}

test('the list of licences is that of what is installed', () => {
  const listed = read('docs/licences.md')
    .split('\n')
    .filter((line) => line.startsWith('- **'))
  expect(listed).toEqual(linesFromLock())
})

test('nothing under the GPL is needed to run: it can be left out', () => {
  const { dependencies, optionalDependencies } = JSON.parse(read('package.json')) as Record<
    string,
    Record<string, string>
  >
  const { packages } = JSON.parse(read('package-lock.json')) as { packages: Record<string, Locked> }
  const isGpl = (name: string) => /(^|[^LA])GPL/.test(packages[`node_modules/${name}`]?.license ?? '')
  expect(Object.keys(dependencies ?? {}).filter(isGpl)).toEqual([])
  expect(Object.keys(optionalDependencies ?? {}).filter(isGpl)).toEqual(['dictionary-de'])
})
