import { createContext, useContext } from 'react'
import type { Overview, SessionView } from '#core/api/views.ts'
import { yearMonthDayOf } from '#core/time/calendar.ts'
import { dayAt, unpackZone, type Zone } from '#core/time/zones.ts'

interface Business {
  readonly overview: Overview
  readonly session: SessionView
}

const context = createContext<Business | null>(null)
export const BusinessProvider = context.Provider

export interface BusinessView extends Business {
  readonly zone: Zone
  readonly now: number
  /** Business time's year: dates in it are shown without a year. */
  readonly year: number
  /** Whether what concerns everybody is theirs to do. */
  readonly isOwner: boolean
}

const unpacked = new Map<string, Zone>()

function zoneOf(line: string): Zone {
  const zone = unpacked.get(line) ?? unpackZone(line)
  unpacked.set(line, zone)
  return zone
}

/** The business, its zone and its time, for everything within the frame. */
export function useBusiness(): BusinessView {
  const business = useContext(context)
  if (!business) throw new Error('There is no business outside the frame')
  const zone = zoneOf(business.overview.zoneLine)
  const { now } = business.overview.clock
  const isOwner = business.session.person?.role === 'owner'
  return { ...business, zone, now, year: yearMonthDayOf(dayAt(zone, now)).year, isOwner }
}
