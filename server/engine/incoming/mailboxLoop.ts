import type { ReadingState } from '#core/model/incomingMailbox.ts'
import { sendIdIn } from '#core/engine/following/replan.ts'
import { headerFields, messageIdsIn } from '#core/incoming/mail.ts'
import {
  afterNoting,
  hasOldToNote,
  liesFromBefore,
  positionIn,
  type MailboxPosition,
} from '#core/incoming/mailboxPosition.ts'
import { isIncomingKnown, type WayIn } from '../../db/incomingStore.ts'
import { isOld, noteOld, putPosition, readPosition } from '../../db/mailboxStore.ts'
import { readSend } from '../../db/sendStore.ts'
import { usualListenerLimits } from '../../mail/incoming/listener.ts'
import { keyOfHeader } from '../../mail/incoming/keyOf.ts'
import type { MailHead, OpenMailbox } from '../../mail/incoming/mailboxClient.ts'
import { headerBlock } from '../../mail/incoming/readMail.ts'
import type { Store } from '../../db/database.ts'

/** What is longer is kept in part, and told so: as much as the listener takes. */
const { mostBytes } = usualListenerLimits
const keptOfLonger = 200_000
/** So many are asked for at once. */
const atOnce = 200
/** How often one mail is asked for before its header has to do. */
const mostTries = 3

const tooLong =
  'It is longer than 25 MB, and only its beginning was taken in: look at it in your mail program.'
const notGiven = 'The mail server does not give it out: look at it in your mail program.'

/** Where mails of one mailbox go. */
export interface Taking {
  readonly store: Store
  readonly mailboxId: string
  /** It came with the house: nothing in it is from before. */
  readonly isOwn: boolean
  /** Stores a mail; false: it is there already. */
  readonly take: (source: Buffer, way: WayIn) => boolean
  readonly now: () => number
  readonly onState: (state: ReadingState) => void
}

/** Whether an old mail refers to a message of this house: an answer that may have come just before. */
function answersUs(store: Store, header: Buffer): boolean {
  const fields = headerFields(headerBlock(header))
  const named = ['in-reply-to', 'references'].flatMap((name) => messageIdsIn(fields[name]?.[0] ?? ''))
  return named.some((messageId) => {
    const id = sendIdIn(messageId)
    return id !== null && readSend(store.statements, id) !== null
  })
}

function* inParts<Item>(items: readonly Item[], size: number): Generator<readonly Item[]> {
  for (let start = 0; start < items.length; start += size) yield items.slice(start, start + size)
}

/**
 * Reads an open mailbox: what is new first, then some of what is old, again and again. Where it broke off it goes on: the
 * position is written with every mail, and what was stored is known by its key.
 */
export class MailboxPass {
  /** How often a mail was asked for in vain. */
  private readonly tries = new Map<number, number>()
  /** What is old and not noted, as the server listed it; null: not asked yet. */
  private old: readonly number[] | null = null

  constructor(private readonly taking: Taking) {}

  private get position(): MailboxPosition | null {
    return readPosition(this.taking.store.statements, this.taking.mailboxId)
  }

  private put(position: MailboxPosition) {
    putPosition(this.taking.store.statements, this.taking.mailboxId, position)
  }

  /** Finds its place in the folder as it was opened. */
  begin(mailbox: OpenMailbox) {
    this.old = null
    const known = this.position
    const position = positionIn(known, mailbox, this.taking.now(), this.taking.isOwn)
    if (position !== known) this.put(position)
  }

  /** Stores all that is new. Returns whether there was anything. */
  async readNew(mailbox: OpenMailbox): Promise<boolean> {
    const { lastUid } = this.required()
    const uids = await mailbox.uidsFrom(lastUid + 1)
    let left = uids.length
    for (const part of inParts(uids, atOnce)) {
      this.taking.onState({ kind: 'reading', waiting: left })
      const heads = await mailbox.heads(part)
      for (const head of heads) await this.takeNew(mailbox, head)
      // What is not among them is gone.
      this.put({ ...this.required(), lastUid: Math.max(this.required().lastUid, part.at(-1) ?? 0) })
      left -= part.length
    }
    return uids.length > 0
  }

  /** Notes some of what is old; false: all of it is noted. */
  async noteOld(mailbox: OpenMailbox): Promise<boolean> {
    const position = this.required()
    if (!hasOldToNote(position)) return false
    this.taking.onState({ kind: 'noting what is old', noted: position.notedCount, of: position.oldCount })
    this.old ??= await mailbox.uidsFrom(position.oldNoted + 1)
    const uids = this.old
      .filter((uid) => uid > position.oldNoted && uid <= position.oldUntil)
      .slice(0, atOnce)
    if (uids.length === 0) {
      this.old = null
      this.put(afterNoting(position, 0, null))
      return true
    }
    const heads = await mailbox.heads(uids)
    for (const head of heads) {
      if (answersUs(this.taking.store, head.header)) await this.take(mailbox, head, true)
    }
    const { store, mailboxId } = this.taking
    store.transaction(() => {
      for (const { header } of heads) noteOld(store.statements, mailboxId, keyOfHeader(header))
      this.put(afterNoting(position, heads.length, uids.at(-1) ?? position.oldUntil))
    })
    return true
  }

  private required(): MailboxPosition {
    const { position } = this
    if (!position) throw new Error('The mailbox was not begun')
    return position
  }

  private async takeNew(mailbox: OpenMailbox, head: MailHead) {
    const { store, mailboxId } = this.taking
    const key = keyOfHeader(head.header)
    const position = this.required()
    const isNoted = isOld(store.statements, mailboxId, key)
    const isKnown = isIncomingKnown(store.statements, key)
    if (!isKnown && !liesFromBefore(position, { isNoted, arrivedAt: head.arrivedAt })) {
      await this.take(mailbox, head, false)
    }
    this.put({ ...position, lastUid: Math.max(position.lastUid, head.uid) })
  }

  /** Fetches a mail and stores it. */
  private async take(mailbox: OpenMailbox, head: MailHead, isFromBefore: boolean) {
    const way = { by: this.taking.mailboxId, from: null, to: [], isOld: isFromBefore }
    const tries = this.tries.get(head.uid) ?? 0
    if (tries >= mostTries) {
      this.taking.take(head.header, { ...way, cut: notGiven })
      return
    }
    this.tries.set(head.uid, tries + 1)
    const isLong = head.bytes > mostBytes
    const source = await mailbox.source(head.uid, isLong ? keptOfLonger : mostBytes)
    this.tries.delete(head.uid)
    if (source) this.taking.take(source, { ...way, cut: isLong ? tooLong : null })
  }
}
