import { defineConfig } from '@playwright/test'
import { chromiumLaunch } from './e2e/chromium.ts'

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  globalSetup: './e2e/loadedDemo.ts',
  workers: 2,
  // For a machine four times slower than a quiet one: a limit here ends what hangs and measures nothing.
  timeout: 240_000,
  expect: { timeout: 48_000 },
  // Shared machines stand still for minutes: what fails is tried once more in a new browser with new data, and told.
  retries: 1,
  reporter: [['list']],
  use: {
    launchOptions: chromiumLaunch,
    // A press that finds nothing to press says which, before the whole test is over its time.
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'America/New_York',
    trace: 'off',
    // Nothing is waited for that only moves.
    contextOptions: { reducedMotion: 'reduce' },
  },
})
