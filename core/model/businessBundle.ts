import { z } from 'zod'

/** What a whole business is called in a file. */
export const businessFormat = 'vorfreude-business-1'

/** A value of a table: bytes are base64 (RFC 4648 4). */
export const bundledValue = z.union([
  z.string(),
  z.number(),
  z.null(),
  z.object({ base64: z.string() }).strict(),
])
export type BundledValue = z.infer<typeof bundledValue>

/** A whole business: every table with its rows, as the schema of that number has them. Without passwords and keys. */
export const businessBundle = z
  .object({
    format: z.literal(businessFormat),
    schema: z.number().int().min(1),
    /** ISO 8601, real time. */
    takenAt: z.string(),
    tables: z.record(z.string(), z.array(z.record(z.string(), bundledValue))),
  })
  .strict()
export type BusinessBundle = z.infer<typeof businessBundle>
