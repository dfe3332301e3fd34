import { reservedEndingOf } from '#core/model/reservedAddress.ts'
import { domainOf } from '#core/model/values.ts'
import { mailboxServices, submissionServices, type MailAccount } from '#core/model/mailAccount.ts'
import { nameServer } from './nameServer.ts'

export interface ServiceRecord {
  readonly name: string
  readonly port: number
  readonly priority: number
  readonly weight: number
}
/** Looks the service records of a name up (RFC 2782). */
export type LookUpServices = (name: string) => Promise<readonly ServiceRecord[]>

const fromDns: LookUpServices = (name) => nameServer().resolveSrv(name)

const servicesFor = { sending: submissionServices, reading: mailboxServices }

/**
 * What a domain says of the mail servers that take messages from its people, or keep their mailboxes (RFC 6186, 3). A single dot instead of a name
 * says that there is none (RFC 2782). Nothing that can be looked up: an empty list.
 */
export async function findAccounts(
  email: string,
  purpose: 'sending' | 'reading',
  lookUp: LookUpServices = fromDns,
): Promise<Pick<MailAccount, 'host' | 'port' | 'security'>[]> {
  // Names that lead nowhere by agreement are asked of nobody (RFC 6761).
  if (reservedEndingOf(email) !== null) return []
  const domain = domainOf(email)
  const all = await Promise.all(
    servicesFor[purpose].map(async ({ name, security }) => {
      const records = await lookUp(`${name}.${domain}`).catch(() => [])
      return [...records]
        .filter((record) => record.name !== '' && record.name !== '.')
        .sort((one, other) => one.priority - other.priority || other.weight - one.weight)
        .map((record) => ({ host: record.name.replace(/\.$/, ''), port: record.port, security }))
    }),
  )
  return all.flat()
}
