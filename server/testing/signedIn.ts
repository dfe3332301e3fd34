import type { Express } from 'express'
import { pino } from 'pino'
import { createApp } from '../http/app.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { openExample } from './seed.ts'
import { addEda, signInEda } from './signIn.ts'

/** The example business over HTTP, with somebody signed in who may do everything. */
export interface SignedIn {
  readonly running: RunningApplication
  readonly app: Express
  readonly session: Awaited<ReturnType<typeof signInEda>>
}

export async function openSignedIn(): Promise<SignedIn> {
  const running = await openExample()
  const app = createApp(running, pino({ level: 'silent' }))
  addEda(running.application)
  return { running, app, session: await signInEda(app) }
}
