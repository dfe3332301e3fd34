import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { fileEndpoints } from '#core/api/fileEndpoints.ts'
import { readClient } from '../db/clientStore.ts'
import { readMessage, sourcesOfClient } from '../db/messageStore.ts'
import type { Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { mboxOf } from '../mail/mbox.ts'
import { agedBefore, letGoUpTo } from '../engine/loop/sourceKeeping.ts'
import { give, serve, valueOf } from './route.ts'

/** A name for a file that every system takes. */
const fileName = (name: string) =>
  name
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')

/** How many messages that went before the last so many months are still kept as they went. */
function olderThan(application: Application, months: number): number {
  const { statements } = application.store
  const { after } = letGoUpTo(statements)
  const asked = { after, upTo: agedBefore(application, months) }
  return Number(statements.one('countSourcesBetween', asked)?.['count'] ?? 0)
}

/** For how long messages are kept as they went. */
export function sourceKeepingRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.sourcesKept, ({ query }) => {
    const months = statements.one('readSourcesKept')?.['months']
    return {
      months: typeof months === 'number' ? months : null,
      older: query.months === undefined ? 0 : olderThan(application, query.months),
    }
  })
  serve(router, statements, endpoints.setSourcesKept, ({ body, called }) =>
    valueOf(commands.setSourcesKept(called('setSourcesKept'), body.months)),
  )
}

/** Messages as they went, in the formats every mail program reads: one as .eml, all of a client as mbox. */
export function messageFileRoutes(router: Router, { application }: RunningApplication) {
  const { statements } = application.store
  give(router, statements, fileEndpoints.messageFile, ({ parameters: { id }, response }) => {
    const message = readMessage(statements, id)
    if (!message) throw new Refusal('not found', 'No message has gone of this.')
    const { source } = message
    if (!source) throw new Refusal('not found', 'This e-mail is kept no longer as it went; its text is.')
    response
      .attachment(`${fileName(id)}.eml`)
      .type('message/rfc822')
      .send(source)
  })
  give(router, statements, fileEndpoints.messagesFile, ({ parameters: { id }, response }) => {
    const client = readClient(statements, id)
    if (!client) throw new Refusal('not found', 'There is no such client.')
    const from = application.settings.required().business.senderAddress
    const messages = sourcesOfClient(statements, id).map((one) => ({ from, ...one }))
    response
      .attachment(`${fileName(client.name)}.mbox`)
      .type('application/mbox')
      .send(Buffer.from(mboxOf(messages), 'latin1'))
  })
}
