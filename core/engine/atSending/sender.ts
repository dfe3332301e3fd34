import type { MessageStep } from '../../model/step.ts'
import { thereOn } from '../../sequences/standIns.ts'
import type { Person } from '../../model/business.ts'
import { businessDate, type Settings } from '../../planning/slice.ts'
import type { RunFacts } from '../../planning/runFacts.ts'

interface Sender {
  readonly from: { readonly name: string; readonly address: string }
  /** Where answers go; null: to the sender. */
  readonly replyTo: string | null
}

/** Where answers to somebody go at a moment: while they are away, to who stands in. */
function answersOf(person: Person, settings: Settings, at: number): string {
  const { email, replyTo } = thereOn(settings.people, person, businessDate(settings, at))
  return replyTo ?? email
}

/**
 * In whose name a step's message goes. A person in charge signs with the own name from the business's address, which
 * the mail account may use, and gets the answers; where nobody is in charge the business sends, as it does for the service.
 */
export function senderOf(
  { sender }: MessageStep,
  { settings, personInCharge, serviceId }: RunFacts,
  at: number,
): Sender {
  const { senderName, senderAddress, sharedMailbox, replyTo } = settings.business
  const ofService = settings.services.find(({ id }) => id === serviceId)?.offer.sender
  const own = {
    from: { name: ofService?.name ?? senderName, address: senderAddress },
    replyTo: ofService?.replyTo ?? replyTo,
  }
  switch (sender) {
    case 'business':
      return own
    case 'person in charge':
      return personInCharge
        ? {
            from: { name: personInCharge.name, address: senderAddress },
            replyTo: answersOf(personInCharge, settings, at),
          }
        : own
    case 'shared mailbox':
      return sharedMailbox ? { from: sharedMailbox, replyTo } : own
  }
}
