import { documentsToSign } from '#core/engine/atSending/mergeFacts.ts'
import { bookingLinks } from '#core/engine/atSending/bookingLinks.ts'
import { audienceRow, type Candidate, type MergeFactsView } from '#core/api/letterEndpoints.ts'
import { primaryContact } from '#core/model/client.ts'
import { serviceIdOf } from '#core/planning/about.ts'
import { placeZone, serviceOf, type Settings, type Slice } from '#core/planning/slice.ts'
import { letterMoment } from '#core/rehearsal/letterMoment.ts'
import { isSet } from '../db/columns.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { focusOn } from '../db/livingStore.ts'

/** What a letter is filled from for a client at a moment, with a booking of theirs or without. */
function factsOf({ settings, facts }: Slice, bookingId: string | null, at: number): MergeFactsView {
  const booking = facts.bookings.find(({ id }) => id === bookingId) ?? null
  const enquiry = booking === null ? (facts.enquiries[0] ?? null) : null
  const invoice = facts.invoices.find((one) => booking === null || one.bookingId === booking.id) ?? null
  const serviceId = serviceIdOf({ booking, enquiry })
  const service = serviceId === null ? null : serviceOf(settings, serviceId)
  const inChargeId = booking?.personInChargeId ?? enquiry?.personInChargeId
  return {
    business: settings.business,
    client: facts.client,
    contact: primaryContact(facts.client),
    booking,
    enquiry,
    invoice,
    service,
    personInCharge: settings.people.find(({ id, isActive }) => id === inChargeId && isActive) ?? null,
    progress: [],
    runStartedAt: at,
    optOutUrl: settings.clientLinks.optOut(facts.client.id),
    ...bookingLinks(settings, booking),
    payUrl: invoice === null ? '' : settings.clientLinks.pay(invoice.id),
    allUrl: settings.clientLinks.all(facts.client.id),
    toSign: [...documentsToSign(settings, { booking, enquiry, client: facts.client })],
    zoneName: service ? placeZone(settings, service).name : settings.business.zone,
    sendingAt: at,
  }
}

/** What a letter is filled from at the moment it goes for a booking, as far as that is known. */
export function factsAtSending(
  running: RunningApplication,
  clientId: string,
  bookingId: string | null,
  letterId: string | null,
): { facts: MergeFactsView; goesAt: number | null } {
  const { application } = running
  const now = application.clock.now()
  const slice = application.sliceOf(clientId, focusOn(bookingId ?? clientId))
  if (!slice) throw new Refusal('not found', 'There is no such client.')
  const goesAt =
    bookingId === null || letterId === null ? null : letterMoment(slice, letterId, bookingId, now)
  return { facts: { ...factsOf(slice, bookingId, now), sendingAt: goesAt ?? now }, goesAt }
}

/** How many clients a page to try a letter on has. */
export const audiencePage = 5000

export function audience({ application }: RunningApplication, after: string, limit: number) {
  return application.store.statements
    .all('audienceAfter', { after, limit, now: application.clock.now() })
    .map((row) => audienceRow.parse({ ...row, takesPromotional: isSet(row['takesPromotional']) }))
}

/** Why somebody is a hard case for a letter; empty: not at all. */
function hardness(row: ReturnType<typeof audience>[number], settings: Settings): string {
  const reasons = [
    row.firstName.trim() === '' ? 'no first name' : '',
    row.email === null ? 'no e-mail address' : '',
    row.bookingId === null ? 'no booking ahead' : '',
    row.clientName.length > 28 ? 'a long name' : '',
    row.language === 'en' ? '' : 'another language',
    row.serviceId !== null && settings.services.find(({ id }) => id === row.serviceId)?.placeZone != null
      ? 'a place in another zone'
      : '',
    row.bookingId !== null && row.personInChargeId === null ? 'nobody in charge' : '',
  ]
  return reasons.filter(Boolean).join(', ')
}

const mostCandidates = 400

/** Whom to look at a letter with, the hardest cases first. */
export function candidates(running: RunningApplication): Candidate[] {
  const settings = running.application.settings.required()
  return audience(running, '', audiencePage)
    .map((row): Candidate => ({
      clientId: row.clientId,
      bookingId: row.bookingId,
      label: row.clientName,
      why: hardness(row, settings),
    }))
    .toSorted(
      (one, other) =>
        other.why.split(', ').filter(Boolean).length - one.why.split(', ').filter(Boolean).length,
    )
    .slice(0, mostCandidates)
}
