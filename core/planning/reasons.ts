import { reservedSentence } from '../model/reservedAddress.ts'
import type { Reason } from '../model/send.ts'

/*
 * Every sentence that answers “why then?” and “why not?” about a message, by its code. Times come in as words, on the
 * clock of the business and that of the place.
 */

/** Of a message that one entry stands for, together with all others to the same address. */
export const addressBlockedCode = 'address blocked'

const reason = (code: string, sentence: string): Reason => ({ code, sentence })

/** Why a message stands at its time. */
export const whyThen = {
  atOnce: (what: 'the branch was decided' | 'the sequence started', at: string) =>
    reason('at once', `At once: ${what} ${at}.`),
  offset: (how: string, at: string) => reason('offset', `${how}: ${at}.`),
  afterPrevious: (span: string, doneAt: string, atTime: string, at: string) =>
    reason('after previous', `${span} after the step before was done (${doneAt})${atTime}: ${at}.`),
  yearly: (distance: string, label: string, date: string, atTime: string, at: string) =>
    reason('yearly', `Every year ${distance}on “${label}” (${date}), at ${atTime}: ${at}.`),
  repeat: (span: string, at: string) => reason('repeat', `Again ${span} after the last one: ${at}.`),
  evening: (count: number, at: string) =>
    reason(
      'evening',
      `${count === 1 ? '1 line was ticked' : `${count} lines were ticked`} since the last evening letter: ${at}.`,
    ),
  outsideHours: (direction: 'earlier' | 'later', isOtherDay: boolean, from: string, to: string) => {
    const why = isOtherDay ? 'is on a day on which this step does not go' : 'is outside the sending hours'
    return reason(`moved ${direction}`, `${from} ${why}: ${direction}, ${to}.`)
  },
  lastOpen: (limit: string, at: string) =>
    reason('last open moment', `It is of use only until ${limit}: the last open moment is ${at}.`),
  wasPast: (from: string, at: string) =>
    reason('first open moment', `${from} was already past: the first open moment is ${at}.`),
  heldSince: (since: string, at: string) =>
    reason('first open moment', `Its condition holds since ${since}: the first open moment is ${at}.`),
  keptApart: (at: string) => reason('crowding', `Kept apart from this client’s other messages: ${at}.`),
  putOff: reason('postponed', 'A person put it off to this moment.'),
  settles: reason('settling', 'Its booking has just changed: it waits until that has settled.'),
  approvedLate: reason('first open moment', 'It was approved after its moment: the first open moment.'),
  madePast: reason('first open moment', 'A change made its moment pass: the first open moment.'),
  allowance: (until: string) =>
    reason('allowance', `The mail account takes no more messages before ${until}.`),
}

/** What a message without a time waits for. */
export const waitsFor = {
  anchor: (anchor: string) => reason('no value yet', `Waits for ${anchor}.`),
  yearlyDate: (label: string) => reason('no value yet', `Waits for the date “${label}”.`),
  previousStep: reason('previous step', 'Waits until the step before is done.'),
  branch: reason('branch', 'Waits until the branch before it is decided.'),
  eveningsOn: reason('not switched on', 'Waits until evening letters are switched on.'),
  tick: reason('nothing ticked', 'Waits for a ticked line.'),
  condition: (because: string) => reason('awaits condition', `Waits until this is so: ${because}`),
  officeHours: reason('no open moment', 'There are no office hours to count in.'),
  workingDays: reason('no open moment', 'There are no working days to count in.'),
}

/** Why a planned message does not go. */
export const whyLeftOut = {
  nothingToCount: reason('no open moment', 'There are no office hours or working days to count in.'),
  otherArm: reason('branch', 'The other arm of the branch was taken.'),
  wasPast: (wanted: string, settled: string) =>
    reason('late', `${wanted} was already past when this was settled (${settled}).`),
  pastBefore: reason('past', 'Its moment had passed before it came to be planned.'),
  noneLeftFrom: (from: string) => reason('no open moment', `No open moment is left from ${from} on.`),
  noneWithin: (days: number) => reason('no open moment', `No open moment within ${days} days.`),
  ofNoUse: (limit: string) => reason('too late', `It is of use only until ${limit}.`),
  noneBefore: (limit: string) =>
    reason('no open moment', `It is of use only until ${limit}, and no moment before that is open.`),
  heldTooLate: (since: string) =>
    reason('no open moment', `Its condition held only from ${since}, and no open moment is left.`),
  condition: (because: string | null) => reason('condition', because ?? 'Its condition does not hold.'),
  burst: reason('burst', 'Several had come late at once: only the one wanted last goes.'),
  twoReminders: reason('two reminders', 'Another reminder goes within four hours of it.'),
  crowdedOut: reason(
    'crowded out',
    'No moment is left that keeps the distance to this client’s other messages.',
  ),
  settlesTooLate: reason(
    'too late',
    'Its booking has just changed; when that has settled it comes too late.',
  ),
  approvedTooLate: reason('too late', 'It was approved after its moment, and no open moment is left.'),
  madePast: reason('too late', 'A change made its moment pass, and no open moment is left.'),
  mendedTooLate: reason(
    'mended too late',
    'What blocked it has been mended, but its time had passed by then.',
  ),
  eventOver: reason('event over', 'The event is over.'),
  oldTime: reason('moved', 'The booking was moved; this was planned for its old time.'),
  stopped: (why: string | null) => reason('stopped', why ?? 'It is no longer part of the plan.'),
}

/** Why nothing leaves for a while, whatever is planned. */
export const whyHeldBack = {
  sendingOff: reason('sending off', 'Sending is held back.'),
  clientHeldBack: reason('client held back', 'Everything to this client is held back.'),
  sequencePaused: reason('sequence paused', 'Its sequence is paused.'),
}

/** Why a message is asked about again. */
export const whyAskedAgain = {
  moved: reason('facts changed', 'Approved before the booking was moved: it goes at another time now.'),
  factsChanged: (changes: readonly string[]) =>
    reason('facts changed', `Approved before this changed: ${changes.join('; ')}.`),
  otherLetter: reason('letter changed', 'Approved before another letter took the place of its letter.'),
  runHeld: (why: string) => reason('sequence held', `${why} A person says whether it still goes.`),
}

/** An approved message stays as it was approved. */
export const whyKept = reason(
  'approved words',
  'Its letter says something else by now; this copy keeps the words that were approved. To take the new ones, hold it back and approve it again.',
)

/** What stops a message in the moment of sending. */
export const whyStopped = {
  runStopped: (why: string | null) => reason('stopped', why ?? 'Its sequence has stopped.'),
  stepGone: reason('stopped', 'Its sequence has stopped, or its step is gone.'),
  otherTime: reason('moved', 'What it hangs on has another time now.'),
  sendingOff: reason('missed', 'It fell due while sending was held back.'),
  notLive: reason('missed', 'It fell due while its sequence was not live.'),
  clientHeldBack: reason('missed', 'It fell due while everything to this client was held back.'),
  quiet: reason(
    'missed',
    'It fell due in quiet mode, in which messages reach only the addresses that were named.',
  ),
  tooLate: reason('too late', 'Its last useful moment passed before it could go.'),
  recipientNotMeant: reason('recipient gone', 'Its recipient no longer gets this step.'),
  recipientGone: reason('recipient gone', 'Its recipient is gone.'),
  nothingTicked: reason('nothing ticked', 'Nothing is ticked any more that this letter would tell.'),
  inactive: reason('client inactive', 'The client is marked inactive.'),
  noConsent: reason('no consent', 'The client does not take promotional mail.'),
  badAddress: (given: string, name: string) => reason('no address', `${given} is no usable ${name}.`),
  reservedAddress: (given: string, ending: string) => reason('no address', reservedSentence(given, ending)),
  addressBlocked: (address: string, said: string) =>
    reason(addressBlockedCode, `Messages to ${address} come back: ${said}`),
  noAddress: (name: string) => reason('no address', `There is no ${name} to send it to.`),
  missingFields: (labels: readonly string[]) =>
    reason('missing field', `The letter needs a value that is missing: ${labels.join(', ')}.`),
  letterGone: reason('gone', 'Its letter is gone.'),
  passageGone: reason('gone', 'One of the passages of its letter is gone.'),
  unreadLetter: reason('unread letter', 'Its letter has not been published yet.'),
}
