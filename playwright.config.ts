import { defineConfig } from '@playwright/test'
import { chromiumLaunch } from './e2e/chromium.ts'

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  workers: 1,
  timeout: 30_000,
  expect: { timeout: 8_000 },
  reporter: [['list']],
  use: {
    launchOptions: chromiumLaunch,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'America/New_York',
    trace: 'off',
  },
})
