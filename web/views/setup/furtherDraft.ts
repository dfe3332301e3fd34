import {
  furtherAccountInput,
  type FurtherAccountInput,
  type MessagePurpose,
} from '#core/model/furtherAccount.ts'
import { noAllowance } from '#core/model/allowance.ts'
import type { WaysOut } from '#core/api/mailAccountEndpoints.ts'
import { allowanceDraft, allowanceOf, type AllowanceDraft } from './AllowanceFields.tsx'
import { orNull } from './typed.ts'
import { draftOf, readMailDraft, type MailDraft } from './mailDraft.ts'

export type Further = WaysOut['further'][number]

/** A further account while it is typed. */
export interface FurtherDraft {
  readonly name: string
  readonly senderAddress: string
  readonly purposes: readonly MessagePurpose[]
  readonly personIds: readonly string[]
  readonly allowance: AllowanceDraft
  readonly fallsBack: boolean
  readonly stepsIn: boolean
  readonly mail: MailDraft
}

/** What the form begins with; null: a new one. */
export function draftOfFurther(present: Further | null): FurtherDraft {
  return {
    name: present?.name ?? '',
    senderAddress: present?.senderAddress ?? '',
    purposes: present?.purposes ?? [],
    personIds: present?.personIds ?? [],
    allowance: allowanceDraft(present?.allowance ?? noAllowance),
    fallsBack: present?.fallsBack ?? false,
    stepsIn: present?.stepsIn ?? false,
    mail: draftOf({ account: present?.account ?? null }),
  }
}

type Errors = Readonly<Record<string, string>>

/** What is typed as the server takes it, or what is wrong with it by field; those of the server itself by their own names. */
export function readFurtherDraft(
  { mail, senderAddress, allowance, ...plain }: FurtherDraft,
  present: Further | null,
): { account: FurtherAccountInput } | { errors: Errors } {
  const kept = { account: present?.account ?? null, hasPassword: present?.hasPassword ?? false }
  const read = readMailDraft(mail, kept)
  const parsed = furtherAccountInput.omit({ account: true }).safeParse({
    ...plain,
    senderAddress: orNull(senderAddress.trim()),
    allowance: allowanceOf(allowance),
  })
  if (parsed.success && 'account' in read) return { account: { ...parsed.data, account: read.account } }
  const issues = parsed.success ? [] : parsed.error.issues
  const own = issues.map(({ path, message }): [string, string] => [path.join('.'), message])
  return { errors: { ...('errors' in read ? read.errors : {}), ...Object.fromEntries(own) } }
}
