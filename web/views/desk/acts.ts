import type { TaskLine } from '#core/api/taskEndpoints.ts'
import type { Announcement } from '#core/api/announcements.ts'
import type { DecideLine, SendLine } from '#core/api/views.ts'
import type { SendDecision } from '#core/engine/commands/sendCommands.ts'
import {
  call,
  consider,
  isChangedHere,
  whenActed,
  type CallArguments,
  type CommandArguments,
  type CommandName,
  type Of,
} from '../../app/api.ts'
import { othersThan } from '../../parts/others.ts'
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

/**
 * What a decision is held to. Where this page has changed the message meanwhile, as by a line just typed, what was foretold
 * is asked once more, and counts where it does the same to all others.
 */
async function heldTo<Name extends CommandName>(
  send: SendLine,
  foretold: Foretold,
  name: Name,
  args: CommandArguments<Name>,
): Promise<string | null> {
  if (!foretold) return null
  await whenActed(send.id)
  if (!isChangedHere(send.id, send.revision)) return foretold.announcementId
  const again = await consider(name, args)
  const others = ({ consequences }: Announcement) => JSON.stringify(othersThan([send.id], consequences))
  return others(again) === others(foretold) ? again.announcementId : foretold.announcementId
}

/** A decision about one message that is held to what was foretold of it. */
function held<Name extends CommandName>(
  send: SendLine,
  what: string,
  foretold: Foretold,
  name: Name,
  args: CommandArguments<Name>,
): Decision {
  return {
    ids: [send.id],
    what,
    carryOut: async (commandId) => {
      const announcementId = await heldTo(send, foretold, name, args)
      const body = { ...args.body, commandId, announcementId }
      return plain(call(name, { ...args, body } as unknown as CallArguments<Of<Name>>))
    },
  }
}

/** A decision about one message. */
export function deciding(
  send: SendLine,
  decision: SendDecision,
  foretold: Foretold,
  word = doneWords[decision],
): Decision {
  const { id, revision } = send
  return held(send, `${word}: ${about(send)}.`, foretold, 'decideSend', {
    parameters: { id },
    body: { revision, decision },
  })
}

/** Puts one message off; `when` says it in words. */
export function postponing(send: SendLine, toLocal: string, when: string, foretold: Foretold): Decision {
  const { id, revision } = send
  return held(send, `Later, ${when}: ${about(send)}.`, foretold, 'postponeSend', {
    parameters: { id },
    body: { revision, toLocal },
  })
}

/** Ends the sequence for the client of a message. */
export function stopping(send: SendLine, foretold: Foretold): Decision {
  const { clientId, clientName, sequenceId, sequenceName } = send
  return held(send, `Stopped: ${sequenceName} for ${clientName}.`, foretold, 'stopSequence', {
    parameters: { id: clientId },
    body: { sequenceId },
  })
}

/** Approves alike messages together. */
export function approvingTogether(sends: readonly DecideLine[], foretold: Foretold): Decision {
  const ids = sends.map(({ id }) => id)
  return {
    ids,
    what: `Approved: ${sends.length} × ${sends[0]?.letterName ?? ''}.`,
    carryOut: async (commandId) => {
      const { refused } = await call('actOnSends', {
        body: { commandId, ids, act: { act: 'release' }, announcementId: foretold?.announcementId ?? null },
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
