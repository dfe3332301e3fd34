import type { Worker } from 'node:worker_threads'
import type { ReadMail } from '#core/incoming/mail.ts'
import { ownThread } from '../../ownThread.ts'
import { readPlainly, type Envelope } from './readMail.ts'
import type { Found, ReadingNews, ReadingTask, Wanted } from './readingWorker.ts'
import type { CameFile } from './shownParts.ts'

/** How a mail came. */
export interface CameBy extends Envelope {
  /** Why only its beginning is there; null: it is whole. */
  readonly cut: string | null
}

/** Takes mails apart beside everything else, one at a time, each within bounds of time and memory. */
export interface Reader {
  /** Never fails: what cannot be taken apart is told by its header, with why. */
  read(source: Buffer, way: CameBy): Promise<ReadMail>
  /** The HTML part of a mail; null: it has none, or it cannot be shown. */
  html(source: Buffer): Promise<string | null>
  /** A file that came with a mail, by where it stands in the list; null: there is none, or it cannot be given out. */
  file(source: Buffer, index: number): Promise<CameFile | null>
  end(): Promise<void>
}

export interface ReadingLimits {
  /** How long one mail may take, in milliseconds of real time. */
  readonly mostMs: number
  /** Memory of the thread, in megabytes. */
  readonly mostMb: number
}

const usualLimits: ReadingLimits = { mostMs: 20_000, mostMb: 384 }

const tooLong = 'It takes too long to read: look at it in your mail program.'
const broken = 'It cannot be read: look at it in your mail program.'

type Outcome = { readonly found: Found } | { readonly why: string }

/** A thread that is begun when it is needed, and ended when it gets no further. */
class ReadingThread {
  private worker: Worker | null = null
  private count = 0

  constructor(private readonly limits: ReadingLimits) {}

  ask(source: Buffer, wanted: Wanted): Promise<Outcome> {
    return new Promise((resolve) => {
      const id = (this.count += 1)
      const own = this.begun()
      const ended = (outcome: Outcome) => {
        clearTimeout(timer)
        own.off('message', onNews).off('error', onEnd).off('exit', onEnd)
        resolve(outcome)
      }
      const failed = (why: string) => {
        // Its end is not told once more as another fault.
        own.off('exit', onEnd)
        void this.end().finally(() => ended({ why }))
      }
      const onNews = (news: ReadingNews) => {
        if (news.id === id) ended('found' in news ? { found: news.found } : { why: broken })
      }
      const onEnd = () => failed(broken)
      const timer = setTimeout(() => failed(tooLong), this.limits.mostMs)
      own.on('message', onNews).on('error', onEnd).on('exit', onEnd)
      own.postMessage({ id, source, wanted } satisfies ReadingTask)
    })
  }

  async end() {
    const given = this.worker
    this.worker = null
    await given?.terminate()
  }

  private begun(): Worker {
    this.worker ??= ownThread('server/mail/incoming/readingWorker', null, {
      maxOldGenerationSizeMb: this.limits.mostMb,
    })
    this.worker.unref()
    return this.worker
  }
}

export function createReader(limits: ReadingLimits = usualLimits): Reader {
  const thread = new ReadingThread(limits)
  let turn: Promise<unknown> = Promise.resolve()
  const ask = (source: Buffer, wanted: Wanted): Promise<Outcome> => {
    const outcome = turn.then(() => thread.ask(source, wanted))
    turn = outcome
    return outcome
  }
  const foundOf = (outcome: Outcome) => ('found' in outcome ? outcome.found : null)
  return {
    async read(source, { cut, ...envelope }) {
      if (cut !== null) return readPlainly(source, envelope, cut)
      const outcome = await ask(source, { what: 'mail', envelope })
      return 'found' in outcome ? (outcome.found as ReadMail) : readPlainly(source, envelope, outcome.why)
    },
    html: async (source) => foundOf(await ask(source, { what: 'html' })) as string | null,
    file: async (source, index) => foundOf(await ask(source, { what: 'file', index })) as CameFile | null,
    async end() {
      await turn
      await thread.end()
    },
  }
}
