import type { RequestHandler, Response } from 'express'
import type { Act } from '#core/insight/acts.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { readPeople } from '../db/settingsStore.ts'
import type { Statements } from '../db/statements.ts'
import type { ActRecord } from './actRecord.ts'

/** An act as a route knows it. */
export type NotedAct = Pick<Act, 'personId' | 'sentence' | 'path' | 'things'>

interface Locals {
  note?: (act: NotedAct) => void
  noteLook?: (act: NotedAct) => void
}

/** Pages fetch again what has changed: what is read once more so soon is the same look. */
const sameLookMs = 10 * minuteMs

/** Lets routes write down what was done, with when, by whom and from where. */
export function recordActs(record: ActRecord, statements: Statements): RequestHandler {
  const looks = new Map<string, number>()
  const isSameLook = ({ personId, path }: NotedAct, now: number) => {
    const key = `${personId ?? ''} ${path}`
    for (const [known, at] of looks) if (now - at >= sameLookMs) looks.delete(known)
    const isSame = looks.has(key)
    if (!isSame) looks.set(key, now)
    return isSame
  }
  return (request, response, next) => {
    const locals = response.locals as Locals
    locals.note = (act) => {
      const { name = '' } = readPeople(statements).find(({ id }) => id === act.personId) ?? {}
      record.add({ at: Date.now(), personName: name, from: request.ip ?? '', ...act })
    }
    locals.noteLook = (act) => {
      if (!isSameLook(act, Date.now())) locals.note?.(act)
    }
    next()
  }
}

/** Writes an act down. */
export const noteAct = (response: Response, act: NotedAct) => (response.locals as Locals).note?.(act)

/** Writes down that somebody who does not work with clients' data has looked at some. */
export const noteLook = (response: Response, act: NotedAct) => (response.locals as Locals).noteLook?.(act)
