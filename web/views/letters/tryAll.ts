import { noOwnStatus, nobodyNamed } from '#core/model/booking.ts'
import type { BookingZones } from '#core/letters/bookingWords.ts'
import { freshHistory } from '#core/model/booking.ts'
import type { AudienceRow } from '#core/api/letterEndpoints.ts'
import type { MergeFacts } from '#core/letters/fields.ts'
import { fieldValue } from '#core/letters/fields.ts'
import { mergeLetter } from '#core/letters/merge.ts'
import { piecesOfLetter } from '#core/letters/problems.ts'
import { letterWith } from '#core/letters/content.ts'
import { letterFor } from '#core/letters/variants.ts'
import type { Service, Person } from '#core/model/business.ts'
import type { FieldName, LetterContent, Passage } from '#core/model/letter.ts'
import { placeZone } from '#core/planning/slice.ts'
import type { ZoneTable } from '#core/time/zones.ts'

/** How a letter comes out for one client. */
export interface Trial {
  readonly clientId: string
  readonly clientName: string
  /** Fields that would hold the message. */
  readonly held: readonly FieldName[]
  /** Fields whose sentence is left out or whose substitute stands in. */
  readonly lacking: readonly FieldName[]
  readonly hasNoAddress: boolean
}

/** What is the same for everybody a letter is tried on. */
export interface TrialShare {
  readonly content: LetterContent
  readonly passages: readonly Passage[]
  /** Somebody's facts, for what all have in common. */
  readonly pattern: Omit<MergeFacts, keyof BookingZones> & Readonly<Record<keyof BookingZones, undefined>>
  readonly services: readonly Service[]
  readonly people: readonly Person[]
}

function factsFor(row: AudienceRow, { pattern, services, people }: TrialShare, zones: ZoneTable): MergeFacts {
  const { clientId, clientName, firstName, lastName, email, language, takesPromotional } = row
  const service = services.find(({ id }) => id === row.serviceId) ?? null
  const contact = { id: 'ct_x', firstName, lastName, email, phone: '', isPrimary: true }
  const client = {
    ...pattern.client,
    id: clientId,
    name: clientName,
    language,
    takesPromotional,
    contacts: [contact],
  }
  const { startAt, endAt, partySize, bookingId, serviceId } = row
  const times = startAt === null || endAt === null ? null : { startAt, endAt }
  return {
    ...pattern,
    client,
    contact,
    service,
    enquiry: null,
    invoice: null,
    personInCharge: people.find(({ id, isActive }) => id === row.personInChargeId && isActive) ?? null,
    booking:
      times === null || bookingId === null || serviceId === null
        ? null
        : {
            id: bookingId,
            clientId,
            serviceId,
            personInChargeId: row.personInChargeId,
            status: 'confirmed',
            own: noOwnStatus,
            ...times,
            told: { ...times, since: 0 },
            partySize: partySize ?? 1,
            sessions: [],
            answers: [],
            priceCents: null,
            people: nobodyNamed,
            cancellation: null,
            broughtInAs: null,
            madeAt: 0,
            statusAt: {},
            timesSetAt: 0,
            history: freshHistory('confirmed', 0),
            settling: null,
            revision: 1,
          },
    readerZone: null,
    zone: service
      ? placeZone({ business: pattern.business, zones } as Parameters<typeof placeZone>[0], service)
      : zones.zone(pattern.business.zone),
  }
}

function fieldsThatMayLack(content: LetterContent): readonly FieldName[] {
  const fields = piecesOfLetter(content).flatMap(({ nodes }) =>
    nodes.flatMap((node) => (node.kind === 'field' ? [node.field] : [])),
  )
  return [...new Set(fields)]
}

/** Makes a letter ready once, then tries it on one client after another. */
export function createTrial(share: TrialShare, zones: ZoneTable): (row: AudienceRow) => Trial {
  const letter = letterWith(share.content)
  const fields = fieldsThatMayLack(share.content)
  return (row) => {
    const facts = factsFor(row, share, zones)
    const own = letterFor(letter, { serviceId: facts.service?.id ?? null, client: facts.client })
    const outcome = mergeLetter(own, share.passages, facts)
    const held = outcome.ok ? [] : outcome.missing
    const lacking = fields.filter(
      (field) => !held.includes(field) && fieldValue(field, facts, own.language) === '',
    )
    return {
      clientId: row.clientId,
      clientName: row.clientName,
      held,
      lacking,
      hasNoAddress: row.email === null,
    }
  }
}
