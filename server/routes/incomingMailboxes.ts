import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import type { IncomingMailboxInput } from '#core/model/incomingMailbox.ts'
import { mailAccount } from '#core/model/mailAccount.ts'
import { readIncomingMailboxes, withoutPassword } from '../db/mailboxStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { addressOf } from '../engine/waysOut.ts'
import { Refusal } from '../http/problems.ts'
import { tryMailbox } from '../mail/incoming/tryMailbox.ts'
import { openedPassword } from '../mail/sealed.ts'
import { passwordOf } from './keptPassword.ts'
import { serve, valueOf } from './route.ts'

const onlyDemo = 'The demo reads the mailbox of the post office that came with it, and no other.'

function waysBack({ application, mailboxes, listener }: RunningApplication) {
  const { statements } = application.store
  return {
    listensAt: listener?.port ?? null,
    mailboxes: readIncomingMailboxes(statements).map((mailbox) => ({
      ...withoutPassword(mailbox),
      hasPassword: mailbox.sealedPassword !== null,
      state: mailboxes.stateOf(mailbox.id),
    })),
    ownMailbox: mailboxes.own(),
    isMarked: application.settings.required().markAnswers !== null,
    noticing: application.settings.required().noticing,
  }
}

/** The password of a mailbox, typed or kept. */
function passwordFor({ application }: RunningApplication, { account }: IncomingMailboxInput): string {
  const { statements, keys } = application.store
  const known = readIncomingMailboxes(statements).map(({ sealedPassword, ...one }) => ({
    ...one,
    password: openedPassword(sealedPassword, keys.mailAccounts).password,
  }))
  return passwordOf(account, known, { what: 'mailbox', path: 'mailbox.account.password' })
}

/** What comes back: the mailboxes that are read. */
export function incomingMailboxRoutes(router: Router, running: RunningApplication) {
  const { application, commands, incoming, isDemo, mailboxes } = running
  const { statements } = application.store
  const given = (mailbox: IncomingMailboxInput) => {
    if (isDemo) throw new Refusal('not allowed now', onlyDemo)
    return {
      wish: { ...mailbox, account: mailAccount.strip().parse(mailbox.account) },
      password: passwordFor(running, mailbox),
    }
  }
  serve(router, statements, endpoints.waysBack, () => waysBack(running))
  serve(router, statements, endpoints.addIncomingMailbox, ({ body, called }) =>
    valueOf(commands.putIncomingMailbox(called('addIncomingMailbox'), null, given(body.mailbox))),
  )
  serve(router, statements, endpoints.changeIncomingMailbox, ({ parameters, body, called }) => {
    const changing = { id: parameters.id, revision: body.revision }
    return valueOf(
      commands.putIncomingMailbox(called('changeIncomingMailbox'), changing, given(body.mailbox)),
    )
  })
  serve(router, statements, endpoints.removeIncomingMailbox, ({ parameters, called }) =>
    valueOf(commands.removeIncomingMailbox(called('removeIncomingMailbox'), parameters.id)),
  )
  serve(router, statements, endpoints.tryIncomingMailbox, async ({ body }) => {
    const { wish, password } = given(body.mailbox)
    return { steps: await tryMailbox({ ...addressOf(wish.account, password), folder: wish.folder }) }
  })
  serve(router, statements, endpoints.lookForMail, async () => {
    const before = application.arrivals.count()
    await mailboxes.look()
    await incoming.settled()
    return { cameIn: application.arrivals.count() - before }
  })
  serve(router, statements, endpoints.setNoticing, ({ body, called }) =>
    valueOf(commands.setNoticing(called('setNoticing'), body.noticing)),
  )
  serve(router, statements, endpoints.setMarkedAnswers, ({ body, called }) =>
    valueOf(commands.setMarkedAnswers(called('setMarkedAnswers'), body.isOn)),
  )
}
