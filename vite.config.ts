import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  root: 'web',
  plugins: [react()],
  build: {
    outDir: '../dist',
    emptyOutDir: true,
    chunkSizeWarningLimit: 700,
    // The dictionaries are fetched: a data URL would not be allowed by the content security policy.
    assetsInlineLimit: (file) => (file.endsWith('.aff') ? false : undefined),
  },
  json: { stringify: true },
  worker: { format: 'es' },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4321' } },
})
