import type { DueMoment, Effect } from '#core/engine/effects.ts'
import {
  putBooking,
  putClient,
  removeClient,
  putEnquiry,
  putInvoice,
  putRun,
  putTask,
  putVariation,
} from '../db/clientStore.ts'
import { sequenceDesign } from '#core/engine/consequences/rollout.ts'
import { happening } from '#core/model/dealings.ts'
import { noteWishes } from '#core/model/noteWishes.ts'
import { mailAccount, onlyTo, publicAddress } from '#core/model/mailAccount.ts'
import { dailyCap } from '#core/model/dailyCap.ts'
import { dailyCapKey } from './sending/dailyCap.ts'
import { setClientNoticed } from '../db/visitStore.ts'
import { noticing } from '#core/model/noticing.ts'
import { markedAnswersKey, noticingKey, onlyToKey } from './settings.ts'
import { publicUrlKey } from './waysOut.ts'
import { sourcesKeptMonths } from '#core/model/sourcesKept.ts'
import { asJson, flag, kept } from '../db/columns.ts'
import { appendEvent } from '../db/eventStore.ts'
import { putDraft, putLetter, putPassage } from '../db/letterStore.ts'
import { putClientImport } from '../db/clientImports.ts'
import { moveToClient, putClientMerge } from '../db/clientMerges.ts'
import { putDocument, putSigning } from '../db/documentStore.ts'
import { putForm, putFormReceipt, removeForm } from '../db/formStore.ts'
import { putOnePressMove, putPressedMove } from '../db/moveStore.ts'
import { putFurtherAccount, removeFurtherAccount } from '../db/furtherAccounts.ts'
import { putIncomingMailbox, removeIncomingMailbox } from '../db/mailboxStore.ts'
import { putIncoming, putUndelivered, putWrittenAnswer } from '../db/incomingStore.ts'
import { putSend } from '../db/sendStore.ts'
import {
  addSequenceVersion,
  putSequence,
  putOwnStatus,
  putPipeline,
  putPerson,
  putService,
  writeBusiness,
} from '../db/settingsStore.ts'
import type { Statements } from '../db/statements.ts'
import { putRollout } from '../db/rolloutStore.ts'

type Apply<Kind extends Effect['kind']> = (
  statements: Statements,
  effect: Extract<Effect, { kind: Kind }>,
) => void

/** What waits is listed by its last chance, which is the moment before it goes stale. */
function noteLastChance(
  statements: Statements,
  { kind, key: id }: Pick<DueMoment, 'kind' | 'key'>,
  lastChanceAt: number | null,
) {
  if (kind === 'goes stale') statements.run('noteLastChance', { id, lastChanceAt })
}

/** How each kind of effect is written. */
const applies: { readonly [Kind in Effect['kind']]: Apply<Kind> } = {
  'put client': (statements, { client }) => putClient(statements, client),
  'remove client': (statements, { id }) => removeClient(statements, id),
  'move to client': moveToClient,
  'put client merge': (statements, { merge }) => putClientMerge(statements, merge),
  'end client merge': (statements, { id, at }) => void statements.run('endClientMerge', { id, at }),
  'put client import': (statements, { brought }) => putClientImport(statements, brought),
  'end client import': (statements, { id, at }) => void statements.run('endClientImport', { id, at }),
  'put booking': (statements, { booking }) => putBooking(statements, booking),
  'note told': (statements, { bookingId: id, told }) =>
    void statements.run('noteTold', { id, toldJson: asJson(told) }),
  'put enquiry': (statements, { enquiry }) => putEnquiry(statements, enquiry),
  'put invoice': (statements, { invoice }) => putInvoice(statements, invoice),
  'add happening': (statements, { clientId, happening: one }) =>
    void statements.run('addHappening', { clientId, ...kept(happening, one) }),
  'remove happening': (statements, { clientId, happening: { kind, name, at } }) =>
    void statements.run('removeHappening', { clientId, kind, name, at }),
  'put run': (statements, { run }) => putRun(statements, run),
  'rest run': (statements, { runId, isAtRest }) =>
    void statements.run('restRun', { runId, isAtRest: flag(isAtRest) }),
  'put send': (statements, { send }) => putSend(statements, send),
  'put task': (statements, { task }) => putTask(statements, task),
  'remove task': (statements, { id }) => void statements.run('removeTask', { id }),
  'put incoming': (statements, { incoming }) => putIncoming(statements, incoming),
  'put written answer': (statements, { answer }) => putWrittenAnswer(statements, answer),
  'put undelivered': (statements, { address, undelivered: put }) => putUndelivered(statements, address, put),
  'put variation': (statements, { variation }) => putVariation(statements, variation),
  'remove variation': (statements, { id }) => void statements.run('removeVariation', { id }),
  'put sequence': (statements, { sequence }) => putSequence(statements, sequence),
  'put sequence version': (statements, { version }) => addSequenceVersion(statements, version),
  'remove sequence': (statements, { id }) => {
    statements.run('removeSequenceVersions', { id })
    statements.run('removeSequence', { id })
  },
  'put letter': (statements, { letter, personId }) => putLetter(statements, letter, personId),
  'remove letter': (statements, { id }) => void statements.run('removeLetter', { id }),
  'put letter draft': (statements, { draft }) => putDraft(statements, draft),
  'remove letter draft': (statements, { letterId }) => void statements.run('removeDraft', { letterId }),
  'put passage': (statements, { passage }) => putPassage(statements, passage),
  'remove passage': (statements, { id }) => void statements.run('removePassage', { id }),
  'put file': (statements, { file }) =>
    void statements.run('putFile', { ...file, bytes: Buffer.from(file.bytes) }),
  'add own word': (statements, { word }) => void statements.run('addOwnWord', { word }),
  'put design': (statements, { design: { design, ...plain } }) =>
    void statements.run('putDesign', { ...plain, designJson: asJson(kept(sequenceDesign, design)) }),
  'remove design': (statements, { sequenceId }) => void statements.run('removeDesign', { sequenceId }),
  'end rollout': (statements, { id, at, isStopped }) => {
    statements.run('endRollout', { id, at, isStopped: flag(isStopped) })
    statements.run('forgetDoneOfRollout', { id })
  },
  'give up rollouts': (statements, { sequenceId }) => void statements.run('giveUpRollouts', { sequenceId }),
  'take up rollout': (statements, { id }) => void statements.run('takeUpRollout', { id }),
  'begin rollout': (statements, { begun }) => putRollout(statements, begun),
  'put business': (statements, { business }) => writeBusiness(statements, business),
  'put service': (statements, { service }) => putService(statements, service),
  'remove service': (statements, { id }) => void statements.run('removeService', { id }),
  'put person': (statements, { person }) => putPerson(statements, person),
  'hand tasks on': (statements, { fromId, toId }) => void statements.run('handTasksOn', { fromId, toId }),
  'put own status': (statements, { ownStatus }) => putOwnStatus(statements, ownStatus),
  'remove own status': (statements, { id }) => void statements.run('removeOwnStatus', { id }),
  'put pipeline': (statements, { pipeline }) => putPipeline(statements, pipeline),
  'remove pipeline': (statements, { id }) => void statements.run('removePipeline', { id }),
  'put document': (statements, { document }) => putDocument(statements, document),
  'remove document': (statements, { id }) => void statements.run('removeDocument', { id }),
  'put signing': (statements, { signing, pdf }) => putSigning(statements, signing, pdf),
  'put form': (statements, effect) => putForm(statements, effect.form),
  'remove form': (statements, { id }) => removeForm(statements, id),
  'put form receipt': (statements, { receipt }) => putFormReceipt(statements, receipt),
  'put one-press move': (statements, { move }) => putOnePressMove(statements, move),
  'remove one-press move': (statements, { id }) => void statements.run('removeOnePressMove', { id }),
  'put pressed move': (statements, { pressed }) => putPressedMove(statements, pressed),
  'end pressed move': (statements, { id, at }) => void statements.run('endPressedMove', { id, at }),
  'renew calendar feed': (statements, { id }) => void statements.run('renewCalendarFeed', { id }),
  'set sending': (statements, { isOn }) => void statements.run('setSendingOn', { isSendingOn: flag(isOn) }),
  'set daily cap': (statements, { cap }) =>
    void statements.run('writeMeta', { key: dailyCapKey, value: asJson(kept(dailyCap, cap)) }),
  'set sources kept': (statements, { months }) =>
    void statements.run('setSourcesKept', { months: kept(sourcesKeptMonths, months) }),
  'set mail account': (statements, { kept: account }) => {
    if (account === null) statements.run('removeMailAccount')
    else {
      const accountJson = asJson(kept(mailAccount, account.account))
      statements.run('putMailAccount', { accountJson, sealedPassword: account.sealedPassword })
    }
  },
  'put further account': (statements, { account, sealedPassword }) =>
    putFurtherAccount(statements, account, sealedPassword),
  'remove further account': (statements, { id }) => removeFurtherAccount(statements, id),
  'put incoming mailbox': (statements, { mailbox, sealedPassword, readsAnew }) =>
    putIncomingMailbox(statements, mailbox, sealedPassword, readsAnew),
  'remove incoming mailbox': (statements, { id }) => removeIncomingMailbox(statements, id),
  'set only to': (statements, { addresses }) => {
    if (addresses === null) statements.run('forgetMeta', { key: onlyToKey })
    else statements.run('writeMeta', { key: onlyToKey, value: asJson(kept(onlyTo, [...addresses])) })
  },
  'set marked answers': (statements, { isOn }) => {
    if (isOn) statements.run('writeMeta', { key: markedAnswersKey, value: 'yes' })
    else statements.run('forgetMeta', { key: markedAnswersKey })
  },
  'set noticing': (statements, effect) =>
    statements.run('writeMeta', { key: noticingKey, value: asJson(kept(noticing, effect.noticing)) }),
  'set client noticed': (statements, { clientId, isNoticed }) =>
    setClientNoticed(statements, clientId, isNoticed),
  'set public address': (statements, { url }) => {
    if (url === null) statements.run('forgetMeta', { key: publicUrlKey })
    else statements.run('writeMeta', { key: publicUrlKey, value: kept(publicAddress, url) })
  },
  'set note wishes': (statements, { personId, wishes }) =>
    void statements.run('setNoteWishes', { personId, notesJson: asJson(kept(noteWishes, wishes)) }),
  'append event': (statements, { event }) => appendEvent(statements, event),
  'set due moment': (statements, { moment }) => {
    statements.run('setDueMoment', { ...moment })
    noteLastChance(statements, moment, moment.at - 1)
  },
  'clear due moment': (statements, { moment }) => {
    statements.run('clearDueMoment', { kind: moment.kind, key: moment.key })
    noteLastChance(statements, moment, null)
  },
}

/** Writes what the engine wants done. Called within the transaction of a command, never outside one. */
export function applyEffects(statements: Statements, effects: readonly Effect[]) {
  for (const effect of effects) {
    const apply = applies[effect.kind] as Apply<Effect['kind']>
    apply(statements, effect)
  }
}
