import type { Express } from 'express'
import request from 'supertest'
import { addPerson } from '../db/settingsStore.ts'
import type { Application } from '../engine/application.ts'
import { eda } from './seed.ts'

export function addEda({ store, settings }: Application) {
  store.transaction(() => addPerson(store.statements, eda, null))
  settings.forget()
}

/** Signs her in to a demo: the cookie, and the token that everything that changes something has to carry. */
export async function signInEda(app: Express) {
  const answer = await request(app).post('/api/session/demo').send({ personId: eda.id })
  if (answer.status !== 200) throw new Error(`She could not sign in: ${answer.status}`)
  return {
    cookie: answer.headers['set-cookie']?.[0]?.split(';')[0] ?? '',
    csrf: (answer.body as { csrfToken: string }).csrfToken,
  }
}
