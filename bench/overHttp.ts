import { once } from 'node:events'
import { rmSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import pino from 'pino'
import { createApp } from '#server/http/app.ts'
import { openApplication, type RunningApplication } from '#server/engine/runningApplication.ts'
import { addEda, signInEda } from '#server/testing/signIn.ts'
import { median } from './measuring.ts'
import { origin } from './millionSends.ts'

const rounds = 9

/** A running server on a data folder, asked as pages ask it. */
export interface Asking {
  readonly running: RunningApplication
  /** Median milliseconds and bytes of an answer. */
  readonly asked: (path: string) => Promise<{ readonly ms: number; readonly bytes: number }>
  /** Ends it and removes its data. */
  readonly end: () => Promise<void>
}

export async function askOver(folder: string): Promise<Asking> {
  const running = await openApplication({
    folder,
    isDemo: true,
    smtpUrl: null,
    clockStartsAt: origin,
    onFault: (fault) => {
      throw fault
    },
  })
  addEda(running.application)
  const app = createApp(running, pino({ level: 'silent' }))
  const { cookie } = await signInEda(app)
  const server = app.listen(0, '127.0.0.1')
  await once(server, 'listening')
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  return {
    running,
    async asked(path) {
      const times: number[] = []
      let bytes = 0
      for (let round = 0; round <= rounds; round += 1) {
        const from = performance.now()
        const answer = await fetch(base + path, { headers: { cookie, 'accept-encoding': 'identity' } })
        bytes = (await answer.arrayBuffer()).byteLength
        if (answer.status !== 200) throw new Error(`${path}: ${answer.status}`)
        // The first one is for what is made once.
        if (round > 0) times.push(performance.now() - from)
      }
      return { ms: median(times), bytes }
    },
    async end() {
      server.close()
      await running.end()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
