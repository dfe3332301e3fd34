import { makeFolder } from './jest.folder.js'

makeFolder()

const swc = [
  '@swc/jest',
  {
    jsc: {
      parser: { syntax: 'typescript', tsx: true },
      transform: { react: { runtime: 'automatic' } },
      target: 'es2022',
      experimental: { keepImportAttributes: true },
    },
    module: { type: 'es6' },
  },
]

const shared = {
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: { '^.+\\.tsx?$': swc },
  setupFiles: ['<rootDir>/jest.seed.js'],
}

/** @type {import('jest').Config} */
export default {
  // For a machine four times slower than a quiet one: a limit here ends what hangs and measures nothing.
  testTimeout: 120_000,
  // Left to itself, it keeps one of two processors free.
  maxWorkers: '100%',
  globalTeardown: '<rootDir>/jest.folder.js',
  projects: [
    {
      ...shared,
      displayName: 'core',
      testEnvironment: 'node',
      testMatch: ['<rootDir>/core/**/*.test.ts'],
    },
    {
      ...shared,
      displayName: 'server',
      testEnvironment: 'node',
      testMatch: ['<rootDir>/server/**/*.test.ts', '<rootDir>/demo/**/*.test.ts'],
    },
    {
      ...shared,
      displayName: 'web',
      testEnvironment: 'node',
      testMatch: ['<rootDir>/web/**/*.test.ts'],
    },
  ],
}
