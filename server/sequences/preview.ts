import type { PreviewSubject, PreviewView } from '#core/api/sequenceEndpoints.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import type { Send } from '#core/model/send.ts'
import type { Sequence, SequenceVersion } from '#core/model/sequence.ts'
import { startTraits, type StartEvent } from '#core/model/startEvent.ts'
import type { Subject, SubjectKind } from '#core/model/subject.ts'
import { placeZone, serviceOf, versionOf, type Settings } from '#core/planning/slice.ts'
import type { HardCase } from '#core/rehearsal/hardCases.ts'
import { previewOf, type Preview } from '#core/rehearsal/preview.ts'
import { previewSurprises } from '#core/rehearsal/previewSurprises.ts'
import { recipientNamed } from '#core/sequences/recipients.ts'
import { stepLabel } from '#core/sequences/stepLabel.ts'
import { findStep } from '#core/sequences/steps.ts'
import { surprisesOf } from '#core/sequences/warnings.ts'
import { dayMs } from '#core/time/calendar.ts'
import { dateAndTime } from '#core/time/format.ts'
import { Refusal } from '../http/problems.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { warningFacts } from './lines.ts'
import { focusOn } from '../db/livingStore.ts'

/** Bookings from so long ago on are offered to look at a sequence with. */
const lookBackMs = 30 * dayMs

function bookingSubjects({ application }: RunningApplication): PreviewSubject[] {
  const settings = application.settings.required()
  const from = application.clock.now() - lookBackMs
  return application.store.statements.all('bookingsToPreview', { from }).map((row) => {
    const service = serviceOf(settings, String(row['serviceId']))
    const at = Number(row['startAt'])
    const when = dateAndTime(placeZone(settings, service), at)
    return {
      subject: { kind: 'booking', id: String(row['id']) },
      label: `${String(row['clientName'])} · ${service.name} · ${when}`,
      serviceId: service.id,
      at,
    }
  })
}

/** Bookings ahead, then those behind, the latest first. */
function bookingsToLookAt(running: RunningApplication): PreviewSubject[] {
  const now = running.application.clock.now()
  const all = bookingSubjects(running)
  const isAhead = ({ at }: PreviewSubject) => at !== null && at > now
  return [...all.filter(isAhead), ...all.filter((one) => !isAhead(one)).reverse()]
}

const named = (kind: Exclude<SubjectKind, 'booking'>, id: unknown, ...words: readonly unknown[]) => ({
  subject: { kind, id: String(id) },
  label: words.filter(Boolean).map(String).join(' · '),
  serviceId: null,
  at: null,
})

const toLookAt: Readonly<Record<SubjectKind, (running: RunningApplication) => PreviewSubject[]>> = {
  booking: bookingsToLookAt,
  enquiry: ({ application: { store } }) =>
    store.statements
      .all('enquiriesToPreview')
      .map(({ id, clientName, stage }) => named('enquiry', id, clientName, stage)),
  invoice: ({ application: { store } }) =>
    store.statements
      .all('invoicesToPreview')
      .map(({ id, clientName, dueOn }) => named('invoice', id, clientName, dueOn)),
  client: ({ application: { store } }) =>
    store.statements.all('clientsToPreview').map(({ id, clientName }) => named('client', id, clientName)),
}

/** What is there to look at a sequence with that begins with an event. */
export function previewSubjects(running: RunningApplication, on: StartEvent): PreviewSubject[] {
  return toLookAt[startTraits[on].subject](running)
}

function nameOf(send: Send, settings: Settings, draft: SequenceVersion): string {
  const version =
    send.sequenceId === draft.sequenceId && send.sequenceVersion === draft.version
      ? draft
      : versionOf(settings, send.sequenceId, send.sequenceVersion)
  const step = findStep(version, send.stepId)
  return step ? stepLabel(step, send.letterId, settings) : send.stepKind
}

function zoneNameOf({ facts }: Preview, subject: Subject, settings: Settings): string {
  const booking = facts.bookings.find(({ id }) => id === subject.id)
  return booking ? placeZone(settings, serviceOf(settings, booking.serviceId)).name : settings.business.zone
}

/** A design played for somebody real, with every message's moment, its reason, and what would surprise. */
export function previewSequence(
  running: RunningApplication,
  sequenceId: string,
  design: SequenceDesign,
  subject: Subject,
  hardCase: HardCase,
): PreviewView {
  const { application } = running
  const settings = application.settings.required()
  const row = application.store.statements.one('clientOfSubject', { id: subject.id })
  const slice = row ? application.sliceOf(String(row['clientId']), focusOn(subject.id)) : null
  if (!slice)
    throw new Refusal('not found', 'Nobody is there any more to look at it with. Choose another one.')
  const present = settings.sequences.find(({ id }) => id === sequenceId)
  if (!present) throw new Refusal('not found', 'There is no such sequence.')
  const { name, start, steps, stops } = design
  const version: SequenceVersion = { sequenceId, version: present.currentVersion + 1, start, steps, stops }
  const sequence: Sequence = { ...present, name }
  const facts = warningFacts(running, settings)
  const preview = previewOf({ sequence, version, slice, subject, hardCase, now: application.clock.now() })
  const say = (send: Send) => nameOf(send, settings, version)
  const clientZone = preview.facts.client.zone ?? settings.business.zone
  return {
    startsAt: preview.startsAt,
    event: preview.event,
    zoneName: zoneNameOf(preview, subject, settings),
    lines: preview.sends.map(({ send, at, goes }) => {
      const { id, stepId, stepKind, occurrence, address, purpose, state, reason, trace } = send
      const told = { id, stepId, stepKind, occurrence, purpose, state, reason, trace: [...trace] }
      const { business, people } = settings
      const { client } = preview.facts
      const name = recipientNamed(send.recipientId, {
        client,
        business,
        people,
        personInCharge: null,
        named: null,
      })
      const to = [name, address].filter(Boolean).join(' · ') || null
      return { ...told, action: say(send), to, at, goes }
    }),
    surprises: [
      ...surprisesOf({ id: sequenceId, name, start, steps }, facts),
      ...previewSurprises({ preview, settings, clientZone, nameOf: say }),
    ],
  }
}
