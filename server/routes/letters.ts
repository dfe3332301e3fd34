import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { fileEndpoints } from '#core/api/fileEndpoints.ts'
import { readLetterFile, usesOfLetter, usesOfPassage } from '#core/engine/commands/letterCommands.ts'
import { largestFileBytes, largestPictureBytes, letterContent, type Letter } from '#core/model/letter.ts'
import { fromJson } from '../db/columns.ts'
import { lettersBeingWritten, readDraft, readFile } from '../db/letterStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { effectOfPassage, effectOfText } from '../letters/effect.ts'
import { audience, audiencePage, candidates, factsAtSending } from '../letters/facts.ts'
import { contextOf, houseOf, lineOf } from '../letters/lines.ts'
import { contentOfMail, mailsOf, messageOf, sendTestCopy } from '../letters/messages.ts'
import { composeMessage } from '../mail/compose.ts'
import { give, serve, valueOf } from './route.ts'

/** What is being written about a letter, and publishing it. */
function draftRoutes(router: Router, running: RunningApplication, found: (id: string) => Letter) {
  const { application, commands } = running
  const { statements } = application.store
  serve(router, statements, endpoints.saveLetterDraft, ({ parameters, body, called }) => {
    const call = called('saveLetterDraft')
    const { version, revision, content } = body
    return valueOf(commands.saveLetterDraft(call, parameters.id, { version, revision, content }))
  })
  serve(router, statements, endpoints.dropLetterDraft, ({ parameters, called }) =>
    valueOf(commands.dropLetterDraft(called('dropLetterDraft'), parameters.id)),
  )
  serve(router, statements, endpoints.letterEffect, ({ parameters, body }) =>
    effectOfText(running, found(parameters.id).id, body.content),
  )
  serve(router, statements, endpoints.publishLetter, ({ parameters, body, called }) => {
    const call = called('publishLetter')
    const { version, revision, content } = body
    return valueOf(commands.publishLetter(call, parameters.id, { version, revision, content }))
  })
}

function letterRoutesOf(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  const found = (id: string) => {
    const letter = application.settings.required().letters.find((one) => one.id === id)
    if (!letter) throw new Refusal('not found', 'There is no such letter.')
    return letter
  }
  serve(router, statements, endpoints.letters, () => {
    const settings = application.settings.required()
    const passages = settings.passages.map((one) => ({
      ...one,
      usedBy: [...usesOfPassage(settings, one.id)],
    }))
    const house = houseOf(running)
    const written = lettersBeingWritten(statements, settings.letters)
    return { letters: settings.letters.map((one) => lineOf(house, one, written.has(one.id))), passages }
  })
  serve(router, statements, endpoints.letter, ({ parameters }) => {
    const settings = application.settings.required()
    const letter = found(parameters.id)
    const versions = statements.all('versionsOfLetter', { letterId: letter.id }).map((row) => ({
      version: Number(row['version']),
      changedAt: Number(row['changedAt']),
      personName: typeof row['personName'] === 'string' ? row['personName'] : null,
      content: letterContent.parse(fromJson(row['contentJson'])),
    }))
    const context = contextOf(houseOf(running), letter)
    return {
      letter,
      draft: readDraft(statements, letter.id),
      usedBy: [...usesOfLetter(settings, letter.id)],
      versions,
      context,
      passages: [...settings.passages],
    }
  })
  serve(router, statements, endpoints.addLetter, ({ body, called }) =>
    valueOf(commands.addLetter(called('addLetter'), body.content)),
  )
  draftRoutes(router, running, found)
  serve(router, statements, endpoints.archiveLetter, ({ parameters, body, called }) => {
    const call = called('archiveLetter')
    return valueOf(commands.archiveLetter(call, parameters.id, body.isArchived))
  })
  serve(router, statements, endpoints.removeLetter, ({ parameters, called }) => {
    const call = called('removeLetter')
    return valueOf(commands.removeLetter(call, parameters.id))
  })
}

function passageRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  serve(router, statements, endpoints.putPassage, ({ parameters, body, called }) => {
    const call = called('putPassage')
    return valueOf(commands.putPassage(call, { id: parameters.id, ...body.passage }, body.version))
  })
  serve(router, statements, endpoints.passageEffect, ({ parameters, body }) =>
    effectOfPassage(running, { id: parameters.id, ...body.passage }),
  )
  serve(router, statements, endpoints.removePassage, ({ parameters, called }) => {
    const call = called('removePassage')
    return valueOf(commands.removePassage(call, parameters.id))
  })
}

/** The first bytes of the kinds of files letters can carry. */
const heads: Readonly<Record<string, readonly number[]>> = {
  'image/png': [0x89, 0x50, 0x4e, 0x47],
  'image/jpeg': [0xff, 0xd8, 0xff],
  'image/gif': [0x47, 0x49, 0x46, 0x38],
  'application/pdf': [0x25, 0x50, 0x44, 0x46],
}

function fileRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.addFile, ({ body, called }) => {
    const { name, type } = body
    const bytes = Buffer.from(body.base64, 'base64')
    const isReally = (heads[type] ?? []).every((byte, index) => bytes[index] === byte)
    if (!isReally) throw new Refusal('malformed', 'This file is no PNG, JPEG, GIF or PDF inside.')
    const most = type === 'application/pdf' ? largestFileBytes : largestPictureBytes
    if (bytes.length > most) throw new Refusal('invalid', `The file is larger than ${most / 1000} kB.`)
    return valueOf(commands.addFile(called('addFile'), { name, type, bytes }))
  })
  give(router, statements, fileEndpoints.file, ({ parameters, response }) => {
    const file = readFile(statements, parameters.id)
    if (!file) throw new Refusal('not found', 'There is no such file.')
    response.type(file.type).set('Content-Security-Policy', "default-src 'none'").send(file.bytes)
  })
}

function tryingRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  serve(router, statements, endpoints.letterFacts, ({ query }) =>
    factsAtSending(running, query.clientId, query.bookingId ?? null, query.letterId ?? null),
  )
  serve(router, statements, endpoints.letterCandidates, () => ({ candidates: candidates(running) }))
  serve(router, statements, endpoints.audience, ({ query }) => {
    const rows = audience(running, query.after ?? '', audiencePage)
    const total = Number(statements.one('countClients')?.['count'] ?? 0)
    return { rows, next: rows.length < audiencePage ? null : (rows.at(-1)?.clientId ?? null), total }
  })
  serve(router, statements, endpoints.sendTestCopy, async ({ parameters, body, personId }) => {
    const person = application.settings.required().people.find(({ id }) => id === personId)
    if (!person) throw new Refusal('forbidden', 'A test copy goes to the person who asks.')
    const to = { name: person.name, address: person.email }
    await sendTestCopy(
      running,
      messageOf(running, body.content, body.clientId, body.bookingId, parameters.id, to),
    )
    application.changes.publish(['mail'])
    return { address: person.email }
  })
  serve(router, statements, endpoints.addOwnWord, ({ body, called }) =>
    valueOf(commands.addOwnWord(called('addOwnWord'), body.word)),
  )
  serve(router, statements, endpoints.readLetterFile, async ({ body }) => ({
    content: body.name.endsWith('.eml')
      ? await contentOfMail(body.name, body.text)
      : valueOf(readLetterFile(body.text)),
  }))
  serve(router, statements, endpoints.readMails, ({ body }) => mailsOf(Buffer.from(body.base64, 'base64')))
  give(router, statements, fileEndpoints.letterFile, async ({ parameters, query, response }) => {
    const letter = application.settings.required().letters.find(({ id }) => id === parameters.id)
    if (!letter) throw new Refusal('not found', 'There is no such letter.')
    const to = { name: 'Example', address: 'example@mail.example' }
    const message = messageOf(running, letter, query.clientId, query.bookingId || null, letter.id, to)
    const source = await composeMessage(message, (id) => readFile(statements, id))
    response.attachment(`${letter.name}.eml`).type('message/rfc822').send(source)
  })
}

export function letterRoutes(router: Router, running: RunningApplication) {
  letterRoutesOf(router, running)
  passageRoutes(router, running)
  fileRoutes(router, running)
  tryingRoutes(router, running)
}
