import { accountOf } from '#core/engine/atSending/accountOf.ts'
import { allowanceLeft, allowanceLine, inAllowanceOrder } from '#core/engine/atSending/allowance.ts'
import type { OutgoingMessage, RoutedMessage } from '#core/engine/atSending/checkAtSending.ts'
import { sendFactsOf } from '#core/engine/atSending/mergeFacts.ts'
import { mainAccountId } from '#core/model/furtherAccount.ts'
import { isMessage } from '#core/model/step.ts'
import { dateAndTime } from '#core/time/format.ts'
import { asJson } from '../../db/columns.ts'
import { onlyLiving } from '../../db/livingStore.ts'
import { readSend, sentSince, sentThrough } from '../../db/sendStore.ts'
import { isOfStore } from '../../db/storeFault.ts'
import type { MailAccounts } from '../../mail/mailAccounts.ts'
import type { Application } from '../application.ts'
import type { OnFault } from './faults.ts'

/*
 * Each mail account is a lane of its own: what one does not take waits, and holds up nothing in the others. Where there
 * is but one account nobody looks which it is.
 */

/** What one account carries at present: what is its own, and what it carries in another's stead. */
interface Lane {
  readonly id: string
  /** The accounts whose messages it carries, as the queries want them: `|one|other|`; null: all there are. */
  readonly through: string | null
}

/** What is due is looked at in so many pieces a turn, so that a turn stays short. */
const routedAtOnce = 50

const listed = (ids: readonly string[]) => `|${ids.join('|')}|`

/** Whether there is more than the main account. */
export const isSplit = (accounts: MailAccounts) => accounts.ids().length > 1

/** What the lane of an account carries; everything, where it is the only one. */
export function laneOf(accounts: MailAccounts, id: string): Lane {
  if (!isSplit(accounts)) return { id, through: null }
  return { id, through: listed(accounts.ids().filter((one) => accounts.carrierOf(one) === id)) }
}

/** The account a message that is due goes through, by its facts. What cannot be read fails where it is checked. */
function accountOfDue(application: Application, row: Record<string, unknown>, onFault: OnFault): string {
  try {
    const slice = application.sliceOf(String(row['clientId']), {
      ...onlyLiving,
      runIds: [String(row['runId'])],
    })
    const send = slice && readSend(application.store.statements, String(row['id']))
    const found = send && sendFactsOf(send, slice)
    if (!found || !isMessage(found.step)) return mainAccountId
    return accountOf(found.step, found.of)?.id ?? mainAccountId
  } catch (fault) {
    if (isOfStore(fault)) throw fault
    onFault(fault)
    return mainAccountId
  }
}

/** Notes which account what has fallen due goes through. True: there is more of it. */
export function routeDue(application: Application, accounts: MailAccounts, onFault: OnFault): boolean {
  if (!isSplit(accounts)) return false
  const { statements } = application.store
  const known = listed(accounts.ids())
  const asked = { until: application.clock.now(), known, limit: routedAtOnce }
  const due = statements.all('unroutedDue', asked)
  for (const row of due) {
    statements.run('goThrough', { id: String(row['id']), through: accountOfDue(application, row, onFault) })
  }
  return due.length === routedAtOnce
}

/** How many messages have gone through an account since a moment; through one that is gone counts as through the main one. */
function goneThrough({ store }: Application, accounts: MailAccounts, id: string, from: number): number {
  if (id !== mainAccountId) return sentThrough(store.statements, id, from)
  const others = accounts.ids().filter((one) => one !== mainAccountId)
  return others.reduce(
    (rest, other) => rest - sentThrough(store.statements, other, from),
    sentSince(store.statements, from),
  )
}

/** What an account will not take now waits until it takes more: service messages go first. */
export function keepToAllowance(application: Application, accounts: MailAccounts, { id, through }: Lane) {
  const { store, clock, settings } = application
  const { business, zones } = settings.required()
  const zone = zones.zone(business.zone)
  const now = clock.now()
  const allowance = accounts.wayOf(id)?.allowance ?? business.allowance
  const { left, freeAt } = allowanceLeft(allowance, zone, now, (from) =>
    goneThrough(application, accounts, id, from),
  )
  if (freeAt === null) return
  const due = store.statements.all('dueMessages', { until: now, through }).map((row) => ({
    id: String(row['id']),
    dueAt: Number(row['dueAt']),
    isPromotional: row['purpose'] === 'promotional',
  }))
  for (const { id: sendId, dueAt } of due.sort(inAllowanceOrder).slice(left)) {
    const line = allowanceLine(dueAt, freeAt, dateAndTime(zone, freeAt))
    store.statements.run('putOff', { id: sendId, dueAt: freeAt, lineJson: asJson(line) })
  }
}

/**
 * A message as the account of a lane carries it; null: it is another's by now, and is noted as that. One that steps in
 * sends from an address it may use.
 */
export function throughLane(
  { store }: Application,
  accounts: MailAccounts,
  sendId: string,
  message: RoutedMessage,
  laneId: string,
): OutgoingMessage | null {
  if (!isSplit(accounts)) return message
  const own = message.accountId ?? mainAccountId
  const carrier = accounts.carrierOf(own)
  store.statements.run('goThrough', { id: sendId, through: carrier === laneId ? laneId : own })
  if (carrier !== laneId) return null
  if (carrier === own) return message
  const address = accounts.wayOf(carrier)?.senderAddress ?? message.houseAddress
  return { ...message, from: { ...message.from, address } }
}
