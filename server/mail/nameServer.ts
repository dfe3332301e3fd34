import { Resolver } from 'node:dns/promises'

/** How long a name server may take to answer, in milliseconds of real time. */
const lookUpMs = 2000

/** Asks the name servers of this machine, once and briefly: somebody waits for the answer. */
export const nameServer = () => new Resolver({ timeout: lookUpMs, tries: 1 })
