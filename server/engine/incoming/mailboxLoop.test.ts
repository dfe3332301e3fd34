import { describe, expect, test } from '@jest/globals'
import type { ReadingState } from '#core/model/incomingMailbox.ts'
import { storeIncoming, type WayIn } from '../../db/incomingStore.ts'
import { openStore } from '../../db/database.ts'
import { keyOf } from '../../mail/incoming/keyOf.ts'
import { MailboxFault, type OpenMailbox } from '../../mail/incoming/mailboxClient.ts'
import { chanceFrom } from '../../testing/chance.ts'
import { mailOf } from '../../testing/mails.ts'
import { testFolder } from '../../testing/seed.ts'
import { MailboxPass } from './mailboxLoop.ts'

/* The reading of a mailbox against one that is made up: mails come and go, it is numbered anew, and lines are lost at any moment. */

interface Lying {
  readonly uid: number
  readonly subject: string
  readonly source: Buffer
}

class MadeUp {
  lying: Lying[] = []
  uidValidity = 1
  /** Asked for in vain, whatever it is. */
  unreadable: string | null = null
  private nextUid = 1

  constructor(private readonly breaks: () => boolean) {}

  arrives(subject: string, hasId = true) {
    const source = mailOf({ subject, ...(hasId ? {} : { messageId: null }) })
    this.lying.push({ uid: this.nextUid, subject, source })
    this.nextUid += 1
  }

  numberAnew() {
    this.uidValidity += 1
    this.nextUid = 1
    this.lying = this.lying.map((one) => ({ ...one, uid: this.nextUid++ }))
  }

  open(): OpenMailbox {
    const answer = <Found>(found: () => Found): Promise<Found> =>
      this.breaks()
        ? Promise.reject(new MailboxFault('away', 'the line is lost', { message: '' }))
        : Promise.resolve().then(found)
    return {
      uidValidity: String(this.uidValidity),
      uidNext: this.nextUid,
      exists: this.lying.length,
      isTold: true,
      uidsFrom: (from) => answer(() => this.lying.map(({ uid }) => uid).filter((uid) => uid >= from)),
      heads: (uids) =>
        answer(() =>
          this.lying
            .filter(({ uid }) => uids.includes(uid))
            .map(({ uid, source }) => ({
              uid,
              bytes: source.length,
              header: source.subarray(0, source.indexOf('\r\n\r\n') + 4),
              arrivedAt: null,
            })),
        ),
      source: (uid) =>
        answer(() => {
          const found = this.lying.find((one) => one.uid === uid)
          if (found && found.subject === this.unreadable)
            throw new MailboxFault('away', 'NO', { message: '' })
          return found?.source ?? null
        }),
      check: () => answer(() => undefined),
      onNews: () => undefined,
      close: () => undefined,
    }
  }
}

function readingInto(folder = testFolder()) {
  const store = openStore(folder)
  const taken: { readonly source: Buffer; readonly way: WayIn }[] = []
  const states: ReadingState[] = []
  const pass = new MailboxPass({
    store,
    mailboxId: 'mb_1',
    isOwn: false,
    take(source, way) {
      const id = `im_${taken.length}`
      if (!storeIncoming(store.statements, { id, key: keyOf(source), cameAt: 0, way, source })) return false
      taken.push({ source, way })
      return true
    },
    now: () => Date.UTC(2026, 4, 14),
    onState: (state) => states.push(state),
  })
  const subjects = () =>
    taken.map(({ source }) => /^Subject: (.*)\r$/m.exec(source.toString('utf8'))?.[1] ?? '')
  return { pass, taken, states, subjects, close: () => store.close() }
}

type Into = ReturnType<typeof readingInto>

/** One connection, up to where it breaks or has read everything. */
async function connectOnce({ pass }: Into, mailbox: MadeUp): Promise<boolean> {
  const open = mailbox.open()
  try {
    pass.begin(open)
    do while (await pass.readNew(open));
    while (await pass.noteOld(open))
    return true
  } catch (fault) {
    if (!(fault instanceof MailboxFault)) throw fault
    return false
  }
}

async function connectUntilRead(into: Into, mailbox: MadeUp) {
  for (let turn = 0; turn < 200; turn += 1) if (await connectOnce(into, mailbox)) return
  throw new Error('It was never read to the end')
}

const lives = process.env['VORFREUDE_FULL'] === 'yes' ? 300 : 40

describe('the reading of a mailbox', () => {
  test(`in ${lives} random lives takes in each new mail once, and none that was there before`, async () => {
    for (let seed = 1; seed <= lives; seed += 1) {
      const chance = chanceFrom(seed)
      let isCalm = true
      const mailbox = new MadeUp(() => !isCalm && chance() < 0.08)
      const into = readingInto()
      const old = Math.floor(chance() * 12)
      for (let count = 0; count < old; count += 1) mailbox.arrives(`old ${seed}-${count}`, chance() < 0.8)
      await connectUntilRead(into, mailbox)
      isCalm = false
      const expected: string[] = []
      for (let turn = 0; turn < 40; turn += 1) {
        const draw = chance()
        if (draw < 0.5) {
          const subject = `new ${seed}-${turn}`
          mailbox.arrives(subject, chance() < 0.8)
          expected.push(subject)
        } else if (draw < 0.6) mailbox.numberAnew()
        else if (draw < 0.7) {
          // Only what was read is deleted: what nobody has read is gone for everybody.
          mailbox.lying = mailbox.lying.filter(
            ({ subject }) => !into.subjects().includes(subject) || chance() < 0.5,
          )
        } else await connectOnce(into, mailbox)
      }
      isCalm = true
      await connectUntilRead(into, mailbox)
      expect({ seed, read: into.subjects().toSorted() }).toEqual({ seed, read: expected.toSorted() })
      into.close()
    }
  })

  test('keeps the header of a mail that the server does not give out, and goes on', async () => {
    const into = readingInto()
    const mailbox = new MadeUp(() => false)
    await connectUntilRead(into, mailbox)
    mailbox.arrives('One')
    mailbox.arrives('Stuck')
    mailbox.arrives('Three')
    mailbox.unreadable = 'Stuck'
    await connectUntilRead(into, mailbox)
    expect(into.subjects()).toEqual(['One', 'Stuck', 'Three'])
    expect(into.taken.map(({ way }) => way.cut)).toEqual([
      null,
      expect.stringContaining('does not give it out'),
      null,
    ])
    into.close()
  })

  test('that broke off before all that is old was noted tells old from new by when it arrived', async () => {
    const into = readingInto()
    let left = 2
    const mailbox = new MadeUp(() => (left -= 1) < 0)
    mailbox.arrives('Old')
    expect(await connectOnce(into, mailbox)).toBe(false)
    const before = Date.UTC(2026, 4, 13)
    const after = Date.UTC(2026, 4, 15)
    left = 1000
    mailbox.arrives('New')
    mailbox.numberAnew()
    const open = mailbox.open()
    into.pass.begin(open)
    const dated: OpenMailbox = {
      ...open,
      heads: async (uids) =>
        (await open.heads(uids)).map((head) => ({ ...head, arrivedAt: head.uid === 1 ? before : after })),
    }
    while (await into.pass.readNew(dated));
    expect(into.subjects()).toEqual(['New'])
    into.close()
  })
})
