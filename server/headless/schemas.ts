import { writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { z } from 'zod'
import { letterFile } from '#core/model/letter.ts'
import { bundle, rehearsalBundle } from '#core/rehearsal/bundle.ts'
import { sequenceFile } from '#core/sequences/sequenceFile.ts'

const folder = new URL('../../docs/formats/', import.meta.url)

/** The JSON Schemas of the file formats, made from the schemas that check the files. */
export function formatSchemas(): Readonly<Record<string, string>> {
  const text = (schema: z.ZodType) => `${JSON.stringify(z.toJSONSchema(schema, { io: 'input' }), null, 2)}\n`
  return {
    'bundle.schema.json': text(bundle),
    'rehearsal.schema.json': text(rehearsalBundle),
    'letter.schema.json': text(letterFile),
    'sequence.schema.json': text(sequenceFile),
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  for (const [name, text] of Object.entries(formatSchemas())) writeFileSync(new URL(name, folder), text)
}
