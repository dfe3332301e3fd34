import { isSameAddress } from '#core/model/values.ts'
import type { Settings } from '#core/planning/slice.ts'
import { listenForMail, type RunningListener } from '../../mail/incoming/listener.ts'
import type { Application } from '../application.ts'
import type { IncomingMail } from './incomingMail.ts'

/** An address without the mark after a + (RFC 5233). */
const withoutMark = (address: string) => address.replace(/\+[^@]*@/, '@')

/** Every address that answers can go to, as they are written in messages. */
export function ownAddresses({ business, people, services, mailAccounts }: Settings): readonly string[] {
  return [
    business.senderAddress,
    business.replyTo,
    business.sharedMailbox?.address,
    ...people.flatMap(({ email, replyTo }) => [email, replyTo]),
    ...services.map(({ offer }) => offer.sender.replyTo),
    ...mailAccounts.map(({ senderAddress }) => senderAddress),
  ].filter((one) => typeof one === 'string')
}

interface Opening {
  readonly application: Application
  readonly incoming: IncomingMail
  readonly port: number | null
  readonly onFault: (fault: unknown) => void
}

/** Takes mail over SMTP where that is wanted; null: it is not. */
export async function openListener({
  application,
  incoming,
  port,
  onFault,
}: Opening): Promise<RunningListener | null> {
  if (port === null) return null
  const isOurs = (address: string) => {
    const settings = application.settings.current()
    return settings !== null && ownAddresses(settings).some((one) => isSameAddress(one, withoutMark(address)))
  }
  const take = (
    source: Buffer,
    { from, to }: { readonly from: string | null; readonly to: readonly string[] },
  ) => {
    incoming.take(source, { by: 'smtp', from, to: [...to], isOld: false })
  }
  return await listenForMail(port, { isOurs, take }, onFault)
}
