import type { Endpoint } from './endpoint.ts'
import type { Endpoints } from './endpoints.ts'
import table from './doors.json' with { type: 'json' }

/** What a page needs to call an endpoint. The schemas stay on the server, which checks what it is asked by them. */
export interface Door {
  readonly method: Endpoint['method']
  readonly path: string
  /** Whether its body carries the caller's id of a command. */
  readonly isCommand: boolean
  /** Whether its answer says which revision it made. */
  readonly saysRevision: boolean
}

export type Doors = Readonly<Record<keyof Endpoints, Door>>

/** Made from the endpoints by `./run formats`. */
export const doors = table as Doors
