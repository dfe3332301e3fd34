import { domainOf } from '#core/model/values.ts'
import type { Note } from '#core/insight/notes.ts'
import type { Person } from '#core/model/business.ts'
import { composeHouseMessage } from '../mail/houseMessage.ts'
import type { MailAccount } from '../mail/mailAccount.ts'
import type { Outcome } from '../mail/whoseFault.ts'
import type { Application } from './application.ts'

/** Sends somebody of the team a mail of the house itself. `key` tells it from every other to the same person. */
export async function tellPerson(
  { settings, clock }: Application,
  account: MailAccount,
  person: Pick<Person, 'id' | 'name' | 'email'>,
  note: Note,
  key: string,
): Promise<Outcome> {
  const { business } = settings.required()
  const from = { name: business.senderName, address: business.senderAddress }
  const domain = domainOf(business.senderAddress)
  const source = await composeHouseMessage({
    messageId: `<note-${person.id}-${key}@${domain}>`,
    from,
    to: { name: person.name, address: person.email },
    subject: note.subject,
    text: note.text,
    at: clock.now(),
  })
  return await account.deliver({ from: from.address, to: person.email }, source)
}
