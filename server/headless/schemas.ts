import { writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { z } from 'zod'
import { changed } from '#core/api/described.ts'
import type { Endpoint } from '#core/api/endpoint.ts'
import { endpoints } from '#core/api/endpoints.ts'
import type { Doors } from '#core/api/doors.ts'
import { letterFile } from '#core/model/letter.ts'
import { bundle, rehearsalBundle } from '#core/rehearsal/bundle.ts'
import { statusTable } from '#core/rehearsal/statusTable.ts'
import { confusionPage } from '#core/incoming/confusion.ts'
import { sequenceFile } from '#core/sequences/sequenceFile.ts'
import { realZones } from '#core/time/realZones.ts'
import { queryTypesText } from './queryTypes.ts'

const folder = new URL('../../docs/formats/', import.meta.url)
const queryTypesFile = new URL('../db/queryTypes.ts', import.meta.url)
const doorsFile = new URL('../../core/api/doors.json', import.meta.url)

/** The JSON Schemas of the file formats, made from the schemas that check the files. */
export function formatSchemas(): Readonly<Record<string, string>> {
  const text = (schema: z.ZodType) => `${JSON.stringify(z.toJSONSchema(schema, { io: 'input' }), null, 2)}\n`
  return {
    'bundle.schema.json': text(bundle),
    'rehearsal.schema.json': text(rehearsalBundle),
    'letter.schema.json': text(letterFile),
    'sequence.schema.json': text(sequenceFile),
    'status-changes.md': statusTable(realZones),
    'reading-answers.md': confusionPage(),
  }
}

/** What the pages need to know of each endpoint, without the schemas. */
export function doorsText(): string {
  const doors = Object.entries(endpoints).map(([name, endpoint]: [string, Endpoint]) => {
    const { method, path, body, answer } = endpoint
    const isCommand = body instanceof z.ZodObject && 'commandId' in body.shape
    return [name, { method, path, isCommand, saysRevision: answer === changed }]
  })
  return `${JSON.stringify(Object.fromEntries(doors) as Doors, null, 2)}\n`
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  for (const [name, text] of Object.entries(formatSchemas())) writeFileSync(new URL(name, folder), text)
  writeFileSync(doorsFile, doorsText())
  writeFileSync(queryTypesFile, queryTypesText())
}
