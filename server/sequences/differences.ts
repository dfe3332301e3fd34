import { randomUUID } from 'node:crypto'
import type { Worker } from 'node:worker_threads'
import type { RolloutLine, RolloutView } from '#core/api/sequenceEndpoints.ts'
import type { Application } from '../engine/application.ts'
import type { DifferenceNews, DifferenceTask } from './differenceWorker.ts'
import type { RolloutAsk } from '../engine/rollouts/rollouts.ts'
import { ownThread } from '../ownThread.ts'

/** Something being worked out beside everything else. */
interface Job {
  readonly worker: Worker
  done: number
  total: number
  result: RolloutView | null
  problem: string | null
}

export interface Differences {
  /** Begins to work out what a design put into effect would change; returns the id to ask by. */
  start(ask: RolloutAsk): string
  read(id: string): Omit<Job, 'worker'> | null
  end(id: string): void
  endAll(): Promise<void>
}

const mostJobs = 8
/** So many lines are sent to the page; more are only counted. */
const mostLines = 3000

function countsOf(lines: readonly RolloutLine[]): RolloutView['counts'] {
  const counts = new Map<string, RolloutView['counts'][number]>()
  for (const { kind, letterName, further } of lines) {
    const key = `${kind} ${letterName}`
    const found = counts.get(key) ?? { kind, action: letterName, count: 0, further: 0 }
    found.count += 1
    found.further += further.length
    counts.set(key, found)
  }
  return [...counts.values()].sort((one, other) => other.count - one.count)
}

function take(job: Job, news: DifferenceNews, application: Application, now: number) {
  switch (news.kind) {
    case 'progress':
      job.done = news.done
      job.total = news.total
      return
    case 'refused':
      job.problem = news.sentence
      return
    case 'result': {
      const { lines, announced, clients, lookedAt } = news
      job.done = job.total = lookedAt
      job.result = {
        announcementId: application.announcements.keep(announced, now),
        clients,
        lookedAt,
        counts: countsOf(lines),
        lines: lines.slice(0, mostLines),
        isCut: lines.length > mostLines,
      }
    }
  }
}

const known = new WeakMap<Application, Differences>()

/** The differences that are being worked out beside an application. */
export function differencesOf(application: Application): Differences {
  const before = known.get(application)
  if (before) return before
  const made = createDifferences(application)
  known.set(application, made)
  application.onEnd(() => made.endAll())
  return made
}

/** Differences over all clients, each worked out in a thread of its own, so that nothing else waits for it. */
function createDifferences(application: Application): Differences {
  const jobs = new Map<string, Job>()
  const end = (id: string) => {
    const job = jobs.get(id)
    jobs.delete(id)
    return job ? job.worker.terminate() : Promise.resolve(0)
  }
  return {
    start(ask) {
      const [oldest] = jobs.keys()
      if (jobs.size >= mostJobs && oldest !== undefined) void end(oldest)
      const now = application.clock.now()
      const { isSendingOn: canSend, isRealMail, mailAccounts } = application.settings.required()
      const ways = { canSend, isRealMail, mailAccounts }
      const task: DifferenceTask = { file: application.store.file, ask, now, ways }
      const worker = ownThread('server/sequences/differenceWorker', task)
      const job: Job = { worker, done: 0, total: 0, result: null, problem: null }
      worker.on('message', (news: DifferenceNews) => take(job, news, application, now))
      worker.on('error', (fault) => {
        job.problem = `It could not be worked out: ${fault instanceof Error ? fault.message : String(fault)}`
      })
      const id = randomUUID()
      jobs.set(id, job)
      return id
    },
    read(id) {
      const job = jobs.get(id)
      if (!job) return null
      const { done, total, result, problem } = job
      return { done, total, result, problem }
    },
    end: (id) => void end(id),
    async endAll() {
      await Promise.all([...jobs.keys()].map(end))
    },
  }
}
