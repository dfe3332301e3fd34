import { allowanceLeft } from '../engine/atSending/allowance.ts'
import type { Allowance } from '../model/allowance.ts'
import type { Zone } from '../time/zones.ts'
import type { Account } from './world.ts'

/** A mail account in memory, with its allowance, which the clients played share. */
export function accountOf(allowance: Allowance, zone: Zone): Account {
  const gone: number[] = []
  return {
    take(now) {
      const sentSince = (from: number) => gone.filter((at) => at >= from).length
      const { left, freeAt } = allowanceLeft(allowance, zone, now, sentSince)
      if (left <= 0) return freeAt
      gone.push(now)
      return null
    },
  }
}
