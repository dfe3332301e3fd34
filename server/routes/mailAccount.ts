import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { beginningOf } from '#core/insight/beginning.ts'
import { mainAccountId, type FurtherAccountInput } from '#core/model/furtherAccount.ts'
import { mailAccount, type MailAccountInput } from '#core/model/mailAccount.ts'
import { rehearse } from '#core/rehearsal/rehearse.ts'
import { readPeople } from '../db/settingsStore.ts'
import { domainRecords, namesToLookUp } from '#core/insight/domainRecords.ts'
import { lookUpTexts } from '../mail/domainTexts.ts'
import { countedToday, readDailyCap } from '../engine/sending/dailyCap.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { addressOf, withoutPassword } from '../engine/waysOut.ts'
import { Refusal } from '../http/problems.ts'
import { newMessageId, sendTestCopy } from '../letters/messages.ts'
import { findAccounts } from '../mail/findAccount.ts'
import { realLimits } from '../mail/smtpSender.ts'
import { tryAccount } from '../mail/tryAccount.ts'
import { passwordOf } from './keptPassword.ts'
import { serve, valueOf } from './route.ts'

const onlyDemo = 'The demo sends to its made-up mailboxes only, never through a real mail account.'
const accountIsGiven =
  'The mail account was given by VORFREUDE_SMTP_URL when Vorfreude was started. Start it without to set one up here.'
const addressIsGiven = 'The address was given by VORFREUDE_PUBLIC_URL when Vorfreude was started.'

const rehearsedKey = 'rehearsed'

/** Sends the one who asks all that a client would get, message by message, and notes that it was done. */
async function rehearsal(running: RunningApplication, personId: string | null) {
  const { application } = running
  const { clock, settings, store, changes } = application
  const present = settings.required()
  const person = present.people.find(({ id }) => id === personId)
  if (!person) throw new Refusal('forbidden', 'A rehearsal goes to the person who asks.')
  const now = clock.now()
  const messages = valueOf(rehearse(present, person, { now, testUrl: `${running.publicUrl()}/test` }))
  for (const message of messages)
    await sendTestCopy(
      running,
      { ...message, messageId: newMessageId(present) },
      message.accountId ?? mainAccountId,
    )
  store.statements.run('writeMeta', { key: rehearsedKey, value: String(now) })
  changes.publish(['mail', 'settings'])
  return { address: person.email, messages: messages.map(({ at, subject }) => ({ at, subject })) }
}

function beginning({ application, ways }: RunningApplication) {
  const { services, letters, sequences, isSendingOn } = application.settings.required()
  const { isReal, publicUrlBy } = ways()
  const rehearsedAt = application.store.statements.one('readMeta', { key: rehearsedKey })
  return beginningOf({
    services: services.filter(({ isActive }) => isActive).length,
    letters: letters.filter(({ isArchived, isStarter }) => !isArchived && !isStarter).length,
    liveSequences: sequences.filter(({ state }) => state === 'live').length,
    isRealMail: isReal,
    hasPublicUrl: publicUrlBy !== 'unknown',
    isRehearsed: rehearsedAt !== undefined,
    isSendingOn,
  })
}

/** The password of an account, typed or kept. */
function passwordFor(
  { ways }: RunningApplication,
  input: MailAccountInput,
  path = 'account.password',
): string {
  const { account, password, further } = ways()
  return passwordOf(input, [{ account, password }, ...further], { what: 'account', path })
}

function letChange({ isDemo, ways }: RunningApplication) {
  if (isDemo) throw new Refusal('not allowed now', onlyDemo)
  if (ways().way === 'given') throw new Refusal('not allowed now', accountIsGiven)
}

/** The mail account that is set up here: tried, used, taken away. */
function accountRoutes(router: Router, running: RunningApplication) {
  const { application, commands, accounts, isDemo } = running
  const { statements } = application.store
  const withOwn = <Answer>(act: () => Answer): Answer => {
    letChange(running)
    return act()
  }
  const renewed = <Answer>(answer: Answer): Answer => {
    accounts.main.renew()
    return answer
  }
  serve(router, statements, endpoints.setMailAccount, ({ body, called }) =>
    withOwn(() => {
      const set = {
        account: mailAccount.strip().parse(body.account),
        password: passwordFor(running, body.account),
      }
      return renewed(valueOf(commands.setMailAccount(called('setMailAccount'), set)))
    }),
  )
  serve(router, statements, endpoints.removeMailAccount, ({ called }) =>
    withOwn(() => renewed(valueOf(commands.setMailAccount(called('removeMailAccount'), null)))),
  )
  serve(router, statements, endpoints.tryMailAccount, async ({ body, personId }) => {
    if (isDemo) throw new Refusal('not allowed now', onlyDemo)
    const address = addressOf(body.account, passwordFor(running, body.account))
    const { business } = application.settings.required()
    const steps = await tryAccount(address, realLimits, {
      from: { name: business.senderName, address: body.senderAddress ?? business.senderAddress },
      to: { name: '', address: emailOf(running, personId) },
    })
    return { steps }
  })
  serve(router, statements, endpoints.domainRecords, async ({ body: { accountId, selector } }) => {
    const { account: present, further } = running.ways()
    const other = further.find(({ id }) => id === accountId)
    const senderAddress = other?.senderAddress ?? application.settings.required().business.senderAddress
    const asked = { senderAddress, host: (other?.account ?? present)?.host ?? null, selector }
    const records = domainRecords(asked, await lookUpTexts(namesToLookUp(asked)))
    return { records: records.map((one) => ({ ...one, found: [...one.found] })) }
  })
  serve(router, statements, endpoints.findMailAccount, async ({ body }) => ({
    found: await findAccounts(body.email, body.for),
  }))
}

/** The accounts beside the main one: also where that was given at the start. */
function furtherAccountRoutes(router: Router, running: RunningApplication) {
  const { application, commands, isDemo } = running
  const { statements } = application.store
  const given = (account: FurtherAccountInput) => {
    if (isDemo) throw new Refusal('not allowed now', onlyDemo)
    return {
      wish: { ...account, account: mailAccount.strip().parse(account.account) },
      password: passwordFor(running, account.account, 'account.account.password'),
    }
  }
  serve(router, statements, endpoints.addFurtherAccount, ({ body, called }) =>
    valueOf(commands.putFurtherAccount(called('addFurtherAccount'), null, given(body.account))),
  )
  serve(router, statements, endpoints.changeFurtherAccount, ({ parameters, body, called }) => {
    const changing = { id: parameters.id, revision: body.revision }
    return valueOf(commands.putFurtherAccount(called('changeFurtherAccount'), changing, given(body.account)))
  })
  serve(router, statements, endpoints.removeFurtherAccount, ({ parameters, called }) =>
    valueOf(commands.removeFurtherAccount(called('removeFurtherAccount'), parameters.id)),
  )
  serve(router, statements, endpoints.setAllowance, ({ body, called }) =>
    valueOf(commands.setAllowance(called('setAllowance'), body.allowance)),
  )
}

const emailOf = ({ application }: RunningApplication, personId: string | null) =>
  readPeople(application.store.statements).find(({ id }) => id === personId)?.email ?? ''

/** How messages go out, and where their links lead. */
export function mailAccountRoutes(router: Router, running: RunningApplication) {
  const { application, commands, ways } = running
  const { statements } = application.store
  serve(router, statements, endpoints.beginning, () => ({ steps: [...beginning(running)] }))
  serve(router, statements, endpoints.rehearse, ({ personId }) => rehearsal(running, personId))
  serve(router, statements, endpoints.waysOut, ({ personId }) => {
    const { way, account, password, further, publicUrl, publicUrlBy, obstacle } = ways()
    const troubles = running.accounts.troubles()
    return {
      way,
      account,
      hasPassword: password !== null,
      allowance: application.settings.required().business.allowance,
      further: further.map((one) => ({
        ...withoutPassword(one),
        hasPassword: one.password !== null,
        trouble: troubles.find(({ id }) => id === one.id)?.sentence ?? null,
      })),
      publicUrl: { url: publicUrl(), way: publicUrlBy },
      obstacle,
      ownAddress: emailOf(running, personId),
    }
  })
  accountRoutes(router, running)
  furtherAccountRoutes(router, running)
  serve(router, statements, endpoints.safety, ({ personId }) => {
    const cap = readDailyCap(statements)
    const ownAddress = emailOf(running, personId)
    return { most: cap.most, sentToday: countedToday(application, cap), ownAddress }
  })
  serve(router, statements, endpoints.setDailyCap, ({ body, called }) =>
    valueOf(commands.setDailyCap(called('setDailyCap'), body.most)),
  )
  serve(router, statements, endpoints.setOnlyTo, ({ body, called }) =>
    valueOf(commands.setOnlyTo(called('setOnlyTo'), body.addresses)),
  )
  serve(router, statements, endpoints.setPublicUrl, ({ body, called }) => {
    if (ways().publicUrlBy === 'given') throw new Refusal('not allowed now', addressIsGiven)
    return valueOf(commands.setPublicUrl(called('setPublicUrl'), body.url))
  })
}
