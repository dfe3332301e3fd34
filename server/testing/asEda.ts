import { randomUUID } from 'node:crypto'
import { expect } from '@jest/globals'
import type { Express } from 'express'
import request from 'supertest'
import type { SignedIn } from './signedIn.ts'

/** How pages ask a server, as somebody who is signed in. */
export function asEda(app: Express, { cookie, csrf }: SignedIn['session']) {
  return {
    /** Tells something, under a command of its own where none is given. */
    send: (method: 'post' | 'put' | 'delete', url: string, body: object = {}) =>
      request(app)
        [method](url)
        .set('Cookie', cookie)
        .set('X-CSRF-Token', csrf)
        .send({ commandId: randomUUID(), ...body }),
    /** Asks for something that is there. */
    async get<Answer>(url: string): Promise<Answer> {
      const answer = await request(app).get(url).set('Cookie', cookie)
      expect(answer.status).toBe(200)
      return answer.body as Answer
    },
  }
}

/** The sentence of a refusal. */
export const detailOf = ({ body }: { body: unknown }) => (body as { detail: string }).detail
