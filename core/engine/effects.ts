import type { Booking } from '../model/booking.ts'
import type { Client } from '../model/client.ts'
import type { Enquiry, Happening, Invoice } from '../model/dealings.ts'
import type { Event } from '../model/event.ts'
import type { Send } from '../model/send.ts'
import type { Run } from '../model/sequence.ts'
import type { ClientFacts } from '../planning/slice.ts'

/** A moment at which the engine is to be asked again, named so that setting it twice is setting it once. */
export interface DueMoment {
  readonly kind: 'booking completes' | 'settle ends' | 'goes stale'
  readonly key: string
  readonly at: number
}

/**
 * What the engine wants done. It writes nothing itself: each shell applies the whole list in one
 * transaction. Putting an object replaces the one with the same id.
 */
export type Effect =
  | { readonly kind: 'put client'; readonly client: Client }
  | { readonly kind: 'put booking'; readonly booking: Booking }
  | { readonly kind: 'put enquiry'; readonly enquiry: Enquiry }
  | { readonly kind: 'put invoice'; readonly invoice: Invoice }
  | { readonly kind: 'add happening'; readonly clientId: string; readonly happening: Happening }
  | { readonly kind: 'put run'; readonly run: Run }
  | { readonly kind: 'put send'; readonly send: Send }
  | { readonly kind: 'append event'; readonly event: Event }
  | { readonly kind: 'set due moment'; readonly moment: DueMoment }
  | { readonly kind: 'clear due moment'; readonly moment: Omit<DueMoment, 'at'> }

function put<Item extends { readonly id: string }>(items: readonly Item[], item: Item): readonly Item[] {
  const index = items.findIndex((one) => one.id === item.id)
  return index < 0 ? [...items, item] : items.with(index, item)
}

/** One client's facts after some effects: how the engine looks at its own proposal before anything is stored. */
export function withEffects(facts: ClientFacts, effects: readonly Effect[]): ClientFacts {
  return effects.reduce((after: ClientFacts, effect) => {
    switch (effect.kind) {
      case 'put client':
        return { ...after, client: effect.client }
      case 'put booking':
        return { ...after, bookings: put(after.bookings, effect.booking) }
      case 'put enquiry':
        return { ...after, enquiries: put(after.enquiries, effect.enquiry) }
      case 'put invoice':
        return { ...after, invoices: put(after.invoices, effect.invoice) }
      case 'add happening':
        return { ...after, happenings: [...after.happenings, effect.happening] }
      case 'put run':
        return { ...after, runs: put(after.runs, effect.run) }
      case 'put send':
        return { ...after, sends: put(after.sends, effect.send) }
      default:
        return after
    }
  }, facts)
}
