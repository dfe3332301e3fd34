import { readdirSync } from 'node:fs'
import reactHooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

const forbid = (...patterns) => ({
  'no-restricted-imports': ['error', { patterns }],
})

const shell = (folder) => ({
  regex: `^#${folder}/|/${folder}/`,
  message: `Imports go one way: this folder must not know ${folder}/.`,
})

/** Folders of core from the bottom up: each may import those before it. */
const coreLayers = [
  'model',
  'time',
  'conditions',
  'letters',
  'incoming',
  'sequences',
  'planning',
  'booking',
  'forms',
  'engine',
  'tables',
  'insight',
  'rehearsal',
  'api',
]

/** What a folder of core may import from outside, beside zod. */
const packagesOf = { incoming: ['chrono-node'], letters: ['diff'] }

const there = readdirSync(new URL('core/', import.meta.url)).sort()
if (there.join() !== coreLayers.toSorted().join()) {
  throw new Error(`eslint.config.js does not know the folders of core as they are: ${there.join(', ')}`)
}

/** Everything but what is named is forbidden: its own folder, those below it, zod. */
const coreLayer = (layer, index) => {
  const below = coreLayers.slice(0, index + 1).join('|')
  const packages = ['zod', ...(packagesOf[layer] ?? [])].join('|')
  const walls = (files, own, up) => ({
    files: [files],
    // Lives are made up at random for tests alone.
    ignores: ['**/*.test.ts', 'core/rehearsal/lives.ts'],
    rules: forbid({
      regex: `^(?!${own}$|${up}(${below})/|(${packages})$)`,
      message: `core/${layer} imports zod, its own folder and those below it: ${coreLayers.slice(0, index).join(', ')}. No I/O, no interface.`,
    }),
  })
  return [
    walls(`core/${layer}/*.ts`, '\\./(\\w+/)?[\\w.]+', '\\.\\./'),
    // A room within the folder.
    walls(`core/${layer}/*/*.ts`, '\\.\\.?/(\\w+/)?[\\w.]+', '\\.\\./\\.\\./'),
  ]
}

export default tseslint.config(
  { ignores: ['dist', 'built', 'data', 'node_modules', '.cache', 'test-results', 'playwright-report'] },
  ...tseslint.configs.strictTypeChecked.map((config) => ({ ...config, files: ['**/*.ts', '**/*.tsx'] })),
  {
    files: ['**/*.ts', '**/*.tsx'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    plugins: { 'react-hooks': reactHooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }],
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
    },
  },
  { files: ['**/*.test.ts', '**/*.test.tsx', 'e2e/**'], rules: { 'max-lines-per-function': 'off' } },
  ...coreLayers.flatMap(coreLayer),
  { files: ['server/**/*.ts'], rules: forbid(shell('web')) },
  { files: ['web/**/*.ts', 'web/**/*.tsx'], rules: forbid(shell('server'), shell('demo')) },
  { files: ['demo/**/*.ts'], rules: forbid(shell('web')) },
)
