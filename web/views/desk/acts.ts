import type { TaskLine } from '#core/api/taskEndpoints.ts'
import type { DecideLine, SendLine } from '#core/api/views.ts'
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

/** A decision about one message. */
export function deciding(send: SendLine, decision: SendDecision, word = doneWords[decision]): Decision {
  return {
    ids: [send.id],
    what: `${word}: ${about(send)}.`,
    carryOut: (commandId) =>
      plain(call('decideSend', { parameters: { id: send.id }, body: { commandId, decision } })),
  }
}

/** Puts one message off; `when` says it in words. */
export function postponing(send: SendLine, toLocal: string, when: string): Decision {
  return {
    ids: [send.id],
    what: `Later, ${when}: ${about(send)}.`,
    carryOut: (commandId) =>
      plain(call('postponeSend', { parameters: { id: send.id }, body: { commandId, toLocal } })),
  }
}

/** Ends the sequence for the client of a message. */
export function stopping(send: SendLine): Decision {
  return {
    ids: [send.id],
    what: `Stopped: ${send.sequenceName} for ${send.clientName}.`,
    carryOut: (commandId) =>
      plain(
        call('stopSequence', {
          parameters: { id: send.clientId },
          body: { commandId, sequenceId: send.sequenceId },
        }),
      ),
  }
}

/** Approves alike messages together. */
export function approvingTogether(sends: readonly DecideLine[]): Decision {
  const ids = sends.map(({ id }) => id)
  return {
    ids,
    what: `Approved: ${sends.length} × ${sends[0]?.letterName ?? ''}.`,
    carryOut: async (commandId) => {
      const { refused } = await call('actOnSends', {
        body: { commandId, ids, act: { act: 'release' }, announcementId: null },
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
      plain(call('finishTask', { parameters: { id: task.id }, body: { commandId, isDone: true } })),
  }
}
