import { isSameAddress } from '#core/model/values.ts'
import type { Settings } from '#core/planning/slice.ts'
import { listenForMail, type RunningListener } from '../../mail/incoming/listener.ts'
import type { Application } from '../application.ts'
import type { IncomingMail } from './incomingMail.ts'

/** An address without the mark after a + (RFC 5233). */
export const withoutMark = (address: string) => address.replace(/\+[^@]*@/, '@')

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

/** Another program has the port at which mail was to come in. */
export class PortTaken extends Error {
  constructor(port: number) {
    super(
      `Port ${port}, at which mail is to come in, is taken by another program. Choose another one with VORFREUDE_INCOMING_PORT.`,
    )
  }
}

const codeOf = (fault: unknown) =>
  typeof fault === 'object' && fault !== null && 'code' in fault ? fault.code : null

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
    incoming.take(source, { by: 'smtp', from, to: [...to], isOld: false, cut: null })
  }
  try {
    return await listenForMail(port, { isOurs, take }, onFault)
  } catch (fault) {
    if (codeOf(fault) === 'EADDRINUSE') throw new PortTaken(port)
    throw fault
  }
}
