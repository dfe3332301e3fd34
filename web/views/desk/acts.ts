import type { TaskLine } from '#core/api/taskEndpoints.ts'
import type { Announcement, DecideLine, SendLine } from '#core/api/views.ts'
import type { SendDecision } from '#core/engine/sendCommands.ts'
import { call } from '../../app/api.ts'
import type { Decision } from './useDecisions.ts'

const doneWords: Readonly<Record<SendDecision, string>> = {
  approve: 'Approved',
  'send now': 'Goes now',
  skip: 'Skipped',
  'it went': 'It went',
  'hold back': 'Held back',
  called: 'Called instead',
}

const about = ({ letterName, clientName }: SendLine) => `${letterName} to ${clientName}`
const plain = async (asked: Promise<unknown>) => {
  await asked
  return null
}

/** What stood there when somebody decided; the decision does that or nothing. */
type Foretold = Announcement | undefined
const seen = (foretold: Foretold) => ({ announcementId: foretold?.announcementId ?? null })

/** A decision about one message. */
export function deciding(
  send: SendLine,
  decision: SendDecision,
  foretold: Foretold,
  word = doneWords[decision],
): Decision {
  const body = { revision: send.revision, decision, ...seen(foretold) }
  return {
    ids: [send.id],
    what: `${word}: ${about(send)}.`,
    carryOut: (commandId) =>
      plain(call('decideSend', { parameters: { id: send.id }, body: { commandId, ...body } })),
  }
}

/** Puts one message off; `when` says it in words. */
export function postponing(send: SendLine, toLocal: string, when: string, foretold: Foretold): Decision {
  const body = { revision: send.revision, toLocal, ...seen(foretold) }
  return {
    ids: [send.id],
    what: `Later, ${when}: ${about(send)}.`,
    carryOut: (commandId) =>
      plain(call('postponeSend', { parameters: { id: send.id }, body: { commandId, ...body } })),
  }
}

/** Ends the sequence for the client of a message. */
export function stopping(send: SendLine, foretold: Foretold): Decision {
  const { clientId, clientName, sequenceId, sequenceName } = send
  const body = { sequenceId, ...seen(foretold) }
  return {
    ids: [send.id],
    what: `Stopped: ${sequenceName} for ${clientName}.`,
    carryOut: (commandId) =>
      plain(call('stopSequence', { parameters: { id: clientId }, body: { commandId, ...body } })),
  }
}

/** Approves alike messages together. */
export function approvingTogether(sends: readonly DecideLine[], foretold: Foretold): Decision {
  const ids = sends.map(({ id }) => id)
  return {
    ids,
    what: `Approved: ${sends.length} × ${sends[0]?.letterName ?? ''}.`,
    carryOut: async (commandId) => {
      const { refused } = await call('actOnSends', {
        body: { commandId, ids, act: { act: 'release' }, ...seen(foretold) },
      })
      const why = refused.map(({ clientName, sentence }) => `${clientName}: ${sentence}`).join(' ')
      return why === '' ? null : `Not all were approved. ${why}`
    },
  }
}

/** A task is done. */
export function finishing(task: TaskLine): Decision {
  return {
    ids: [task.id],
    what: `Done: ${task.title}.`,
    carryOut: (commandId) =>
      plain(
        call('finishTask', {
          parameters: { id: task.id },
          body: { commandId, revision: task.revision, isDone: true },
        }),
      ),
  }
}
