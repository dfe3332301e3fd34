import type { Run } from '../model/sequence.ts'
import type { Send } from '../model/send.ts'
import type { Settings } from '../planning/slice.ts'
import { isoWithOffset } from '../time/format.ts'
import type { World } from './world.ts'

/** A time as reports give it: ISO 8601 with the business's offset, and epoch milliseconds. */
interface ReportedTime {
  readonly iso: string
  readonly epochMs: number
}

function reporter(settings: Settings) {
  const zone = settings.zones.zone(settings.business.zone)
  return (at: number | null): ReportedTime | null =>
    at === null ? null : { iso: isoWithOffset(zone, at), epochMs: at }
}

function reportRun(run: Run, time: ReturnType<typeof reporter>) {
  const {
    sequenceId,
    version,
    subject,
    clientId,
    state,
    startedAt,
    startedOn,
    stoppedAt,
    stoppedReason,
    branches,
  } = run
  return {
    sequenceId,
    version,
    subject,
    clientId,
    state,
    started: time(startedAt),
    startedOn,
    stopped: time(stoppedAt),
    stoppedReason,
    branches: branches.map(({ stepId, arm, at }) => ({ stepId, arm, at: time(at) })),
  }
}

function reportSend(send: Send, time: ReturnType<typeof reporter>) {
  const { sequenceId, subject, stepId, occurrence, anchorValue, recipientId } = send
  return {
    key: { sequenceId, subject, stepId, occurrence, anchorValue, recipientId },
    does: send.stepKind,
    state: send.state,
    purpose: send.purpose,
    letterId: send.letterId,
    wanted: time(send.wantedAt),
    notBefore: time(send.notBefore),
    notAfter: time(send.notAfter),
    due: time(send.dueAt),
    sent: time(send.sentAt),
    recipient: { id: recipientId, address: send.address },
    reason: send.reason,
    trace: send.trace.map(({ before, after, ...line }) => ({
      ...line,
      before: time(before),
      after: time(after),
    })),
  }
}

/** All runs and sends of some worlds, in an order that depends on nothing but the facts. */
export function report(settings: Settings, worlds: readonly World[], until: number) {
  const time = reporter(settings)
  const facts = worlds.map((world) => world.facts())
  const sends = facts.flatMap((of) => of.sends)
  const order = (send: Send) => send.sentAt ?? send.dueAt ?? send.wantedAt ?? Infinity
  const naturalKey = ({
    clientId,
    sequenceId,
    subject,
    stepId,
    occurrence,
    anchorValue,
    recipientId,
  }: Send) => [clientId, sequenceId, subject.id, stepId, occurrence, anchorValue, recipientId].join('|')
  const sorted = sends.toSorted(
    (one, other) => order(one) - order(other) || (naturalKey(one) < naturalKey(other) ? -1 : 1),
  )
  return {
    format: 'vorfreude-report-1',
    now: time(until),
    timeDataVersion: settings.zones.version,
    runs: facts.flatMap((of) => of.runs.map((run) => reportRun(run, time))),
    sends: sorted.map((send) => reportSend(send, time)),
  }
}
