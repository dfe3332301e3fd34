import type { Router } from 'express'
import { fileEndpoints } from '#core/api/fileEndpoints.ts'
import { readClient } from '../db/clientStore.ts'
import type { RunningOffice } from '../engine/runningOffice.ts'
import { Refusal } from '../http/problems.ts'
import { mboxOf } from '../mail/mbox.ts'
import { give } from './route.ts'

/** A name for a file that every system takes. */
const fileName = (name: string) =>
  name
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')

/** Messages as they went, in the formats every mail program reads: one as .eml, all of a client as mbox. */
export function messageFileRoutes(router: Router, { office }: RunningOffice) {
  const { statements } = office.store
  give(router, statements, fileEndpoints.messageFile, ({ parameters: { id }, response }) => {
    const source = statements.one('readMessage', { sendId: id })?.['source']
    if (!Buffer.isBuffer(source)) throw new Refusal('not found', 'No message has gone of this.')
    response
      .attachment(`${fileName(id)}.eml`)
      .type('message/rfc822')
      .send(source)
  })
  give(router, statements, fileEndpoints.messagesFile, ({ parameters: { id }, response }) => {
    const client = readClient(statements, id)
    if (!client) throw new Refusal('not found', 'There is no such client.')
    const from = office.settings.required().business.senderAddress
    const messages = statements
      .all('messagesOfClient', { clientId: id })
      .flatMap(({ source, at }) => (Buffer.isBuffer(source) ? [{ from, at: Number(at), source }] : []))
    response
      .attachment(`${fileName(client.name)}.mbox`)
      .type('application/mbox')
      .send(Buffer.from(mboxOf(messages), 'latin1'))
  })
}
