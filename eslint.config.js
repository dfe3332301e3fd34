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
  'sequences',
  'planning',
  'engine',
  'rehearsal',
  'insight',
  'formats',
]

const outside = {
  regex:
    '^(node:|fs$|path$|express|better-sqlite3|react|@mantine|@tanstack|nodemailer|smtp-server|mailparser|pino|date-holidays)',
  message: 'core/ has no I/O and no interface: it imports zod and its own folders only.',
}

const coreLayer = (layer, index) => ({
  files: [`core/${layer}/**/*.ts`],
  ignores: ['**/*.test.ts'],
  rules: forbid(
    outside,
    shell('server'),
    shell('web'),
    shell('demo'),
    ...coreLayers.slice(index + 1).map((above) => ({
      regex: `^(\\.\\./|#core/)${above}/`,
      message: `core/${layer} is below core/${above} and must not know it.`,
    })),
  ),
})

export default tseslint.config(
  { ignores: ['dist', 'data', 'node_modules', '.cache', 'test-results', 'playwright-report'] },
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
  ...coreLayers.map(coreLayer),
  { files: ['server/**/*.ts'], rules: forbid(shell('web')) },
  { files: ['web/**/*.ts', 'web/**/*.tsx'], rules: forbid(shell('server'), shell('demo')) },
  { files: ['demo/**/*.ts'], rules: forbid(shell('web')) },
)
