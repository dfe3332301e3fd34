import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build, preview } from 'vite'

/** A page with a virtual list of as many lines of plain text, to measure against. */
export interface BareList {
  readonly url: string
  close(): Promise<void>
}

export async function startBareList(count: number): Promise<BareList> {
  const outDir = mkdtempSync(join(tmpdir(), 'vorfreude-bare-'))
  const root = 'bench/bareList'
  const options = { root, configFile: false, logLevel: 'error' } as const
  await build({ ...options, build: { outDir, emptyOutDir: true } })
  const bare = await preview({ ...options, build: { outDir }, preview: { port: 0, host: '127.0.0.1' } })
  return {
    url: `${bare.resolvedUrls?.local[0] ?? ''}?count=${count}`,
    async close() {
      await bare.close()
      rmSync(outDir, { recursive: true, force: true })
    },
  }
}
