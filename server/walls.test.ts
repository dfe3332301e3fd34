import { readdirSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { beforeAll, describe, expect, test } from '@jest/globals'
import { ESLint, Linter } from 'eslint'

/* The walls between folders hold: each import that is forbidden is refused, each that is needed is let through. */

const root = fileURLToPath(new URL('../', import.meta.url))
const rule = 'no-restricted-imports'
const rules = new Map<string, Linter.RuleEntry>()

const files = [
  ...['model', 'time', 'letters', 'planning', 'engine', 'api'].map((layer) => `core/${layer}/some.ts`),
  'core/engine/commands/some.ts',
  ...['server/routes/some.ts', 'web/views/some.tsx', 'demo/some.ts'],
]

beforeAll(async () => {
  const eslint = new ESLint({ cwd: root })
  for (const file of files) {
    const config = (await eslint.calculateConfigForFile(file)) as { rules: Record<string, Linter.RuleEntry> }
    rules.set(file, config.rules[rule] ?? 'off')
  }
}, 60_000)

function isRefused(file: string, from: string): boolean {
  const entry = rules.get(file)
  if (!entry) throw new Error(`${file} was not looked at`)
  const config = { rules: { [rule]: entry }, languageOptions: { sourceType: 'module' as const } }
  return new Linter().verify(`import some from '${from}'`, config).length > 0
}

describe('forbidden', () => {
  test.each([
    [
      'core/model/some.ts',
      ['dayjs', 'moment-timezone', 'node:fs', 'fs', 'react', '../time/zones.ts', '../api/views.ts'],
    ],
    [
      'core/time/some.ts',
      ['#core/engine/react.ts', '../../server/db/database.ts', '#web/app/api.ts', 'date-holidays'],
    ],
    ['core/letters/some.ts', ['../planning/slice.ts', 'nodemailer', './../engine/react.ts']],
    ['core/planning/some.ts', ['../engine/react.ts', 'lodash', '../../demo/letters.ts']],
    ['core/engine/some.ts', ['../rehearsal/world.ts', '../insight/load.ts', 'better-sqlite3']],
    [
      'core/engine/commands/some.ts',
      [
        '../../insight/load.ts',
        '../../api/views.ts',
        '../../../server/db/columns.ts',
        'better-sqlite3',
        './../../insight/load.ts',
      ],
    ],
    ['core/api/some.ts', ['express', '@mantine/core', '#server/http/app.ts', 'undici']],
    ['server/routes/some.ts', ['../../web/app/api.ts', '#web/app/api.ts']],
    ['web/views/some.tsx', ['#server/db/database.ts', '../../server/http/app.ts', '#demo/letters.ts']],
    ['demo/some.ts', ['#web/app/api.ts']],
  ])('%s', (file, imports) => {
    expect(imports.filter((from) => !isRefused(file, from))).toEqual([])
  })
})

describe('let through', () => {
  test.each([
    ['core/model/some.ts', ['zod', './send.ts']],
    ['core/letters/some.ts', ['zod', 'diff', '../model/send.ts', '../time/zones.ts']],
    ['core/engine/some.ts', ['../planning/slice.ts', '../letters/merge.ts', './effects.ts']],
    [
      'core/engine/commands/some.ts',
      [
        './sendCommands.ts',
        '../effects.ts',
        '../following/react.ts',
        '../../planning/slice.ts',
        '../../engine/context.ts',
      ],
    ],
    ['core/engine/some.ts', ['./following/react.ts']],
    [
      'core/api/some.ts',
      ['../engine/consequences/rollout.ts', '../rehearsal/hardCases.ts', '../engine/rollout.ts', 'zod'],
    ],
    ['server/routes/some.ts', ['#core/api/views.ts', 'express', '../db/columns.ts']],
    ['web/views/some.tsx', ['#core/api/views.ts', '@mantine/core', '../app/api.ts']],
  ])('%s', (file, imports) => {
    expect(imports.filter((from) => isRefused(file, from))).toEqual([])
  })
})

test('every folder of core has its place, and no room a room of its own, which no wall would stand around', () => {
  const all = readdirSync(`${root}core`, { recursive: true, encoding: 'utf8' })
  expect(all.filter((path) => path.split('/').length > 3)).toEqual([])
  expect(readdirSync(`${root}core`).filter((name) => name.includes('.'))).toEqual([])
})
