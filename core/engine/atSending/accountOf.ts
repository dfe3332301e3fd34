import type { FurtherAccount } from '../../model/furtherAccount.ts'
import { isPromotional, type MessageStep } from '../../model/step.ts'
import type { RunFacts } from '../../planning/runFacts.ts'

/** The account that carries what somebody signs; undefined: none of their own. */
export const accountOfPerson = (accounts: readonly FurtherAccount[], personId: string) =>
  accounts.find(({ personIds }) => personIds.includes(personId))

/**
 * The account a step's message goes out through: that of who signs it, else that of its purpose; null: the main one. An
 * occasion that offers something counts as promotional here as elsewhere.
 */
export function accountOf(
  step: MessageStep,
  { settings, personInCharge }: Pick<RunFacts, 'settings' | 'personInCharge'>,
): FurtherAccount | null {
  const { mailAccounts } = settings
  const signedBy = step.sender === 'person in charge' ? personInCharge : null
  const ofPerson = signedBy && accountOfPerson(mailAccounts, signedBy.id)
  if (ofPerson) return ofPerson
  const purpose = isPromotional(step) ? 'promotional' : step.purpose
  return mailAccounts.find(({ purposes }) => purposes.some((one) => one === purpose)) ?? null
}
