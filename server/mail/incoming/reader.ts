import type { Worker } from 'node:worker_threads'
import type { ReadMail } from '#core/incoming/mail.ts'
import { ownThread } from '../../ownThread.ts'
import { readPlainly, type Envelope } from './readMail.ts'
import type { ReadingNews, ReadingTask } from './readingWorker.ts'

/** Takes mails apart beside everything else, one at a time, each within bounds of time and memory. */
export interface Reader {
  /** Never fails: what cannot be taken apart is told by its header, with why. */
  read(source: Buffer, envelope: Envelope): Promise<ReadMail>
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

export function createReader({ mostMs, mostMb }: ReadingLimits = usualLimits): Reader {
  let worker: Worker | null = null
  let count = 0
  let turn: Promise<unknown> = Promise.resolve()

  const thread = () => {
    worker ??= ownThread('server/mail/incoming/readingWorker', null, { maxOldGenerationSizeMb: mostMb })
    worker.unref()
    return worker
  }
  const giveUp = async () => {
    const given = worker
    worker = null
    await given?.terminate()
  }
  const ask = (source: Buffer, envelope: Envelope): Promise<ReadMail> =>
    new Promise((resolve) => {
      const id = (count += 1)
      const own = thread()
      const ended = (mail: ReadMail) => {
        clearTimeout(timer)
        own.off('message', onNews).off('error', onFault).off('exit', onExit)
        resolve(mail)
      }
      const failed = (why: string) => {
        // Its end is not told once more as another fault.
        own.off('exit', onExit)
        void giveUp().finally(() => ended(readPlainly(source, envelope, why)))
      }
      const onNews = (news: ReadingNews) => {
        if (news.id !== id) return
        ended('mail' in news ? news.mail : readPlainly(source, envelope, broken))
      }
      const onFault = () => failed(broken)
      const onExit = () => failed(broken)
      const timer = setTimeout(() => failed(tooLong), mostMs)
      own.on('message', onNews).on('error', onFault).on('exit', onExit)
      own.postMessage({ id, source, envelope } satisfies ReadingTask)
    })
  return {
    read(source, envelope) {
      const mail = turn.then(() => ask(source, envelope))
      turn = mail
      return mail
    },
    async end() {
      await turn
      await giveUp()
    },
  }
}
