import { readdirSync } from 'node:fs'
import { defineConfig } from 'vite'

// They measure what runs.
const benches = readdirSync('bench').filter((file) => file.endsWith('.ts'))

/** The server as it runs: the same modules without their types. What is not code stays where it is. */
export default defineConfig({
  build: {
    ssr: true,
    outDir: 'built',
    emptyOutDir: true,
    target: 'node20',
    rolldownOptions: {
      input: [
        'server/main.ts',
        'demo/main.ts',
        'server/headless/main.ts',
        'server/standins/postOffice/main.ts',
        'server/standins/payments/main.ts',
        'server/standins/receiver/main.ts',
        'server/sequences/differenceWorker.ts',
        'server/db/backupWorker.ts',
        'server/mail/incoming/readingWorker.ts',
        'server/headless/restore.ts',
        ...benches.map((file) => `bench/${file}`),
      ],
      output: { preserveModules: true, preserveModulesRoot: '.', entryFileNames: '[name].js' },
    },
  },
  json: { stringify: true },
})
