import {
  putFurtherAccount,
  removeFurtherAccount,
  type Changing,
  type FurtherAccountWish,
} from '#core/engine/commands/furtherAccountCommands.ts'
import {
  putIncomingMailbox,
  removeIncomingMailbox,
  setMarkedAnswers,
  setNoticing,
  type IncomingMailboxWish,
} from '#core/engine/commands/incomingMailboxCommands.ts'
import {
  setAllowance,
  setDailyCap,
  setMailAccount,
  setOnlyTo,
  setPublicUrl,
} from '#core/engine/commands/mailAccountCommands.ts'
import type { Allowance } from '#core/model/allowance.ts'
import type { MailAccount } from '#core/model/mailAccount.ts'
import type { Noticing } from '#core/model/noticing.ts'
import { seal } from '../../mail/sealed.ts'
import { appendEvent } from '#core/engine/context.ts'
import { removeService, type SettingsChange } from '#core/engine/commands/settingsCommands.ts'
import { removeOwnStatus } from '#core/engine/commands/statusSettings.ts'
import { done, type Result } from '#core/model/problem.ts'
import type { Application, CommandCall } from '../application.ts'
import { heldByItself, intoEffect, type InEffect } from '../rollouts/intoEffect.ts'
import { usesOfOwnStatus, usesOfService } from '../uses.ts'

const sealed = ({ store }: Application, password: string) =>
  password === '' ? null : seal(password, store.keys.mailAccounts)

/** What can be done with the mailboxes that are read. */
function mailboxCommandsOf(application: Application) {
  return {
    /** A mailbox that is read, with its password as it was typed; `changing` null: a new one. */
    putIncomingMailbox: (
      call: CommandCall,
      changing: Changing | null,
      { wish, password }: { wish: IncomingMailboxWish; password: string },
    ) =>
      application.command(call, (context, settings) =>
        putIncomingMailbox(settings, changing, wish, sealed(application, password), context),
      ),
    removeIncomingMailbox: (call: CommandCall, id: string) =>
      application.command(call, (context, settings) => removeIncomingMailbox(settings, id, context)),
    setMarkedAnswers: (call: CommandCall, isOn: boolean) =>
      application.command(call, (context, settings) => setMarkedAnswers(settings, isOn, context)),
    setNoticing: (call: CommandCall, noticing: Noticing) =>
      application.command(call, (context, settings) => setNoticing(settings, noticing, context)),
  }
}

/** What can be done with what holds for everybody: the business, its hours and its services. */
export function createSettingsCommands(application: Application) {
  return {
    ...mailboxCommandsOf(application),

    /** Changed settings in effect, as it was announced; null: without having been announced. */
    changeSettings: (
      call: CommandCall,
      change: SettingsChange,
      announcementId: string | null,
    ): Result<InEffect> =>
      application.command(heldByItself(call), (context, settings) =>
        intoEffect(application, { sequenceId: null, change }, announcementId, settings, context),
      ),

    removeService: (call: CommandCall, id: string) =>
      application.command(call, (context, settings) => {
        const { names } = usesOfService(application, id)
        const decided = removeService(settings, id, names, context)
        return decided.ok ? done({ effects: decided.value, answer: { id } }) : decided
      }),

    /** Another mail account, with the password as it was typed; null: the post office that came with it. */
    setMailAccount: (call: CommandCall, given: { account: MailAccount; password: string } | null) =>
      application.command(call, (context, settings) => {
        const kept = given && { account: given.account, sealedPassword: sealed(application, given.password) }
        return setMailAccount(settings, kept, context)
      }),

    /** A mail account beside the main one, with its password as it was typed; `changing` null: a new one. */
    putFurtherAccount: (
      call: CommandCall,
      changing: Changing | null,
      { wish, password }: { wish: FurtherAccountWish; password: string },
    ) =>
      application.command(call, (context, settings) =>
        putFurtherAccount(settings, changing, wish, sealed(application, password), context),
      ),
    removeFurtherAccount: (call: CommandCall, id: string) =>
      application.command(call, (context, settings) => removeFurtherAccount(settings, id, context)),

    setAllowance: (call: CommandCall, allowance: Allowance) =>
      application.command(call, (context, settings) => setAllowance(settings, allowance, context)),
    setDailyCap: (call: CommandCall, most: number | null) =>
      application.command(call, (context, settings) => setDailyCap(settings, most, context)),
    setOnlyTo: (call: CommandCall, addresses: readonly string[] | null) =>
      application.command(call, (context, settings) => setOnlyTo(settings, addresses, context)),
    setPublicUrl: (call: CommandCall, url: string | null) =>
      application.command(call, (context, settings) => setPublicUrl(settings, url, context)),

    /** A calendar of the team gets another address. */
    renewCalendarFeed: (call: CommandCall, id: string, name: string) =>
      application.command(call, (context) => {
        const sentence = `Calendar address renewed: ${name}.`
        const told = appendEvent(context, 'settings changed', { name }, sentence)
        return done({ effects: [{ kind: 'renew calendar feed', id }, told], answer: { id } })
      }),

    removeOwnStatus: (call: CommandCall, id: string) =>
      application.command(call, (context, settings) => {
        const decided = removeOwnStatus(settings, id, usesOfOwnStatus(application, id).names, context)
        return decided.ok ? done({ effects: decided.value, answer: { id } }) : decided
      }),
  }
}
