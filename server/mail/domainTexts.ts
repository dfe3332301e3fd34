import { reservedEndingOf } from '#core/model/reservedAddress.ts'
import type { TextsAt } from '#core/insight/domainRecords.ts'
import { thrownIn } from '../db/thrown.ts'
import { nameServer } from './nameServer.ts'

/** Looks the text records of a name up; throws where it cannot, with the code of the fault. */
export type LookUpTexts = (name: string) => Promise<readonly (readonly string[])[]>

const fromDns: LookUpTexts = (name) => nameServer().resolveTxt(name)

/** The text records of some names. A name that is there without any, or is not there, has none; else it is not known. */
export async function lookUpTexts(names: readonly string[], lookUp: LookUpTexts = fromDns): Promise<TextsAt> {
  const found = await Promise.all(
    names.map(async (name): Promise<[string, readonly string[] | null]> => {
      // Names that lead nowhere by agreement are asked of nobody (RFC 6761).
      if (reservedEndingOf(`x@${name}`) !== null) return [name, null]
      try {
        // One record may come in several strings, which are one text (RFC 7208 3.3).
        return [name, (await lookUp(name)).map((strings) => strings.join(''))]
      } catch (fault) {
        return [name, ['ENODATA', 'ENOTFOUND'].includes(thrownIn(fault).code) ? [] : null]
      }
    }),
  )
  const texts = new Map(found)
  return (name) => texts.get(name) ?? null
}
