import { accountOfPerson } from '#core/engine/atSending/accountOf.ts'
import { mainAccountId } from '#core/model/furtherAccount.ts'
import type { WrittenAnswer } from '#core/model/writtenAnswer.ts'
import { openAnswers, putWrittenAnswer } from '../../db/incomingStore.ts'
import { composeAnswer } from '../../mail/composeAnswer.ts'
import type { MailAccounts } from '../../mail/mailAccounts.ts'
import type { AccountFault, Outcome } from '../../mail/whoseFault.ts'
import type { Application } from '../application.ts'
import { backOffMs, mostAttempts } from '../sending/backOff.ts'

/*
 * Answers that the team wrote go one after the other. What is being handed over is written down first: a process that is
 * killed meanwhile leaves it in doubt, and it never goes twice by itself.
 */

export interface AnswerSending {
  /** Sends what is to go, soon. */
  soon(): void
  /** What a killed process left: nobody knows whether it went. */
  doubtAbandoned(): void
  settled(): Promise<void>
  end(): Promise<void>
}

interface Parts {
  readonly application: Application
  readonly accounts: MailAccounts
  readonly onFault: (fault: unknown) => void
}

/** The account of who wrote it, where they have one. */
function accountFor({ application, accounts }: Parts, { personId }: WrittenAnswer) {
  const own = accountOfPerson(application.settings.required().mailAccounts, personId ?? '')
  return accounts.of(own?.id ?? mainAccountId) ?? accounts.main
}

const lost =
  'The connection was lost while it was being handed over: it may have gone. Ask, or look into the sent mail.'

/** How an answer stands after an attempt. */
function after(answer: WrittenAnswer, outcome: Exclude<Outcome, AccountFault>, now: number): WrittenAnswer {
  const attempts = answer.attempts + 1
  switch (outcome.kind) {
    case 'accepted':
      return { ...answer, state: 'sent', attempts, reason: null, sentAt: now }
    case 'refused':
      return { ...answer, state: 'failed', attempts, reason: `The mail server refused it: ${outcome.answer}` }
    case 'in doubt':
      return { ...answer, state: 'in doubt', attempts, reason: lost }
    case 'later': {
      const isOver = attempts >= mostAttempts
      const reason = isOver
        ? `It did not get through in ${attempts} attempts: ${outcome.answer}`
        : `It did not get through yet: ${outcome.answer}`
      return { ...answer, state: isOver ? 'failed' : 'ready', attempts, reason }
    }
  }
}

const putIn =
  ({ application: { store, changes } }: Parts) =>
  (answer: WrittenAnswer, source: Buffer | null = null) => {
    store.transaction(() => putWrittenAnswer(store.statements, answer, source))
    changes.publish(['incoming', 'mail'])
  }

/** Hands one answer over; when it may be tried again is noted where it could not be. */
function createHandingOver(parts: Parts, notBefore: Map<string, number>) {
  const { clock } = parts.application
  const put = putIn(parts)
  return async (answer: WrittenAnswer) => {
    const account = accountFor(parts, answer)
    if (account.room() === 0) return
    const source = await composeAnswer({ ...answer, at: clock.now() })
    put({ ...answer, state: 'sending' }, source)
    const outcome = await account.deliver({ from: answer.from.address, to: answer.to }, source)
    if (outcome.kind === 'account') {
      put({ ...answer, reason: `It waits for the mail account: ${outcome.answer}`.slice(0, 600) })
      notBefore.set(answer.id, Date.now() + backOffMs(1, Math.random()))
      return
    }
    const next = after(answer, outcome, clock.now())
    put({ ...next, reason: next.reason?.slice(0, 600) ?? null })
    if (next.state === 'ready') notBefore.set(answer.id, Date.now() + backOffMs(next.attempts, Math.random()))
  }
}

export function createAnswerSending(parts: Parts): AnswerSending {
  const { application, onFault } = parts
  const { store, settings } = application
  const { statements } = store
  const put = putIn(parts)
  /** When each may be tried again, in real time. */
  const notBefore = new Map<string, number>()
  let isEnded = false
  let work: Promise<void> | null = null
  let timer: NodeJS.Timeout | null = null

  const sendOne = createHandingOver(parts, notBefore)
  const sendAll = async () => {
    if (!settings.current()?.isSendingOn) return
    for (const answer of openAnswers(statements, 'ready')) {
      if (isEnded) return
      if ((notBefore.get(answer.id) ?? 0) > Date.now()) continue
      try {
        await sendOne(answer)
      } catch (fault) {
        onFault(fault)
        notBefore.set(answer.id, Date.now() + backOffMs(1, Math.random()))
      }
    }
    if (timer) clearTimeout(timer)
    timer = null
    if (openAnswers(statements, 'ready').length > 0) timer = setTimeout(soon, 5000).unref()
  }
  const soon = () => {
    if (isEnded) return
    work ??= sendAll()
      .catch(onFault)
      .finally(() => {
        work = null
      })
  }
  return {
    soon,
    doubtAbandoned() {
      for (const answer of openAnswers(statements, 'sending'))
        put({ ...answer, state: 'in doubt', reason: lost })
    },
    async settled() {
      while (work) await work
    },
    async end() {
      isEnded = true
      if (timer) clearTimeout(timer)
      await work
    },
  }
}
