import type { z } from 'zod'
import type { Endpoints } from '#core/api/endpoints.ts'

/** What an endpoint answers. */
export type Answer<Name extends keyof Endpoints> = z.output<Endpoints[Name]['answer']>
