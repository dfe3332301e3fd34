import { z } from 'zod'
import { personId } from './business.ts'
import { clientId } from './client.ts'
import { happeningKinds } from './dealings.ts'
import { sendId } from './send.ts'
import { startActs } from './startEvent.ts'
import { subject } from './subject.ts'
import { idOf, instant } from './values.ts'

export const eventId = idOf('ev')

export const eventKind = z.enum([
  ...startActs,
  ...happeningKinds,
  'booking changed',
  'client added',
  'client changed',
  'client held back',
  'client released',
  'clients merged',
  'merge taken back',
  'enquiry changed',
  'move taken back',
  'document signed',
  'invoice changed',
  'line ticked',
  'line unticked',
  'run started',
  'run stopped',
  'run held',
  'run resumed',
  'run moved',
  'branch decided',
  'task set',
  'task changed',
  'task done',
  'task taken up again',
  'note written',
  'mail came in',
  'mail written',
  'address blocked',
  'address works again',
  'step done',
  'message sent',
  'message blocked',
  'message failed',
  'message came back',
  'message in doubt',
  'message missed',
  'message approved',
  'message stale',
  'message skipped',
  'message taken up again',
  'message held back',
  'message postponed',
  'sequence went live',
  'sequence paused',
  'sequence resumed',
  'sequence changed',
  'settings changed',
  'sending held back',
  'sending switched on',
])
export type EventKind = z.infer<typeof eventKind>

/** Something that happened. Events are only ever added; they are the history people see. */
export const event = z
  .object({
    id: eventId,
    at: instant,
    kind: eventKind,
    clientId: clientId.nullable(),
    /** The booking, enquiry or invoice it is about. */
    subject: subject.nullable(),
    /** Which stage, tag, list or form; empty where there is only one kind. */
    name: z.string(),
    sendId: sendId.nullable(),
    /** Who did it; null: Vorfreude by itself. */
    personId: personId.nullable(),
    /** One sentence that tells it to a person. */
    sentence: z.string(),
  })
  .strict()
export type Event = z.infer<typeof event>
