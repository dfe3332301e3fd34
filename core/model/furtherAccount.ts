import { z } from 'zod'
import { allowance } from './allowance.ts'
import { personId } from './business.ts'
import { mailAccount, mailAccountInput } from './mailAccount.ts'
import { purpose } from './timing.ts'
import { emailAddress, idOf, requiredLine } from './values.ts'

export const furtherAccountId = idOf('ma')
/** What messages of all other purposes and people go out through has no row and no id of this kind. */
export const mainAccountId = 'main'

/** The main account or one beside it. */
export const accountId = z.literal(mainAccountId).or(furtherAccountId)

/** A purpose that messages have: what is internal goes to nobody outside. */
export const messagePurpose = purpose.exclude(['internal'])
export type MessagePurpose = z.infer<typeof messagePurpose>

const carries = {
  name: requiredLine(60, 'An account needs a name.'),
  /** Where its messages come from; null: from the sender's address of the business. */
  senderAddress: emailAddress.nullable(),
  /** The purposes whose messages it carries, whoever signs them. */
  purposes: z.array(messagePurpose),
  /** Those whose signed messages it carries, whatever their purpose. */
  personIds: z.array(personId).max(200, 'At most 200 people.'),
  allowance,
  /** While it is at fault as a whole the main account carries what is its own; else that waits. */
  fallsBack: z.boolean(),
  /** While the main account is at fault as a whole, this one carries what is that one's. */
  stepsIn: z.boolean(),
}

/** A mail account beside the main one, without its password: what it carries, and how much. */
export const furtherAccount = z
  .object({
    id: furtherAccountId,
    ...carries,
    account: mailAccount,
    /** Grows with each change. */
    revision: z.number().int().min(1),
  })
  .strict()
export type FurtherAccount = z.infer<typeof furtherAccount>

/** The same as it is given; the password null: the one that is kept. */
export const furtherAccountInput = z.object({ ...carries, account: mailAccountInput }).strict()
export type FurtherAccountInput = z.infer<typeof furtherAccountInput>
