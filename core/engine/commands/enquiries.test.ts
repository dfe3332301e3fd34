import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { nothingWished } from '../../model/enquiry.ts'
import type { Form } from '../../model/form.ts'
import type { Letter } from '../../model/letter.ts'
import { pipeline, type Pipeline, type Stage } from '../../model/pipeline.ts'
import type { Result } from '../../model/problem.ts'
import { endsOn, startRule, type StopRule } from '../../model/sequence.ts'
import type { MailStep, PlainStep } from '../../model/step.ts'
import {
  at,
  exampleBookingInput,
  exampleBusiness,
  exampleClient,
  examplePerson,
  exampleService,
  exampleSettings,
  exampleStep,
} from '../../rehearsal/exampleBusiness.ts'
import { createWorld, type World } from '../../rehearsal/world.ts'
import { dayMs, hourMs } from '../../time/calendar.ts'
import { starterDesigns } from '../../sequences/starterDesigns.ts'
import { realZones } from '../../time/realZones.ts'
import { settingsWithEffects, type Effect } from '../effects.ts'
import { includable } from '../following/inclusion.ts'
import { cancelBooking, makeBooking } from './bookingCommands.ts'
import { recordHappening } from './dealingCommands.ts'
import { setEvening, tickLine } from './eveningCommands.ts'
import {
  addEnquiry,
  bookEnquiry,
  changeEnquiry,
  moveEnquiries,
  moveEnquiry,
  setWishedDate,
  type NewEnquiryInput,
} from './enquiryCommands.ts'
import { putPipeline, removePipeline, stagesMoved, type PipelineChange } from './pipelineCommands.ts'

/* Enquiries on their way through the stages of a pipeline. */

const start = at(realZones, 'Europe/Berlin', '2026-05-14 09:00')
const tove = { ...examplePerson, id: 'pe_tove', name: 'Tove Lindqvist' }
const stage = (name: string, part: Partial<Stage> = {}): Stage => ({
  name,
  meaning: 'open',
  personInChargeId: null,
  deadlineDays: null,
  checklist: [],
  ...part,
})
const charters: Pipeline = {
  id: 'pl_charters',
  name: 'Charters',
  stages: [
    stage('new', { deadlineDays: 2 }),
    stage('offer', { personInChargeId: tove.id, deadlineDays: 14 }),
    stage('planning'),
    stage('asleep'),
    stage('booked', { meaning: 'won' }),
    stage('lost', { meaning: 'lost' }),
  ],
  isActive: true,
  revision: 1,
}

/** A letter that says what was ticked. */
const progressLetter: Pick<Letter, 'id' | 'subject' | 'sections'> = {
  id: 'lt_progress',
  subject: [{ kind: 'text', text: 'What moved on' }],
  sections: [
    {
      id: 'a',
      kind: 'text',
      paragraphs: [[{ kind: 'field', field: 'enquiry.progress', ifMissing: { kind: 'hold' } }]],
    },
  ],
}

interface Ladder {
  readonly stage: string
  readonly steps: readonly PlainStep[]
  readonly stops?: readonly StopRule[]
}

const everyThreeDays = (id: string, atMost: number): MailStep =>
  exampleStep({
    id,
    letterId: 'lt_starter-still',
    purpose: 'follow-up',
    timing: { kind: 'at once' },
    repeat: { every: { amount: 3, unit: 'days' }, untilCondition: null, untilAnchor: null, atMost },
  })

/** The business with a live sequence for each of some stages. */
function world(ladders: readonly Ladder[] = []): World {
  const settings = exampleSettings(realZones, [])
  const own = ladders.map(({ stage: name, steps, stops = [] }, index) => ({
    sequence: {
      id: `sq_${index}`,
      name: `On ${name}`,
      state: 'live' as const,
      liveSince: 0,
      currentVersion: 1,
    },
    version: {
      sequenceId: `sq_${index}`,
      version: 1,
      start: startRule.parse({ on: 'enquiry stage entered', name, again: { kind: 'every time', gap: null } }),
      steps: [...steps],
      stops: [...stops],
    },
  }))
  const rules = {
    people: [...settings.people, tove],
    pipelines: [charters],
    sequences: own.map(({ sequence }) => sequence),
    sequenceVersions: own.map(({ version }) => version),
  }
  // Read by somebody, so that it goes by itself.
  const read = settings.letters.map((one) => ({ ...one, isStarter: false }))
  const letters = [...read, ...read.slice(0, 1).map((one) => ({ ...one, ...progressLetter }))]
  return createWorld({ ...settings, ...rules, letters }, exampleClient, start)
}

const asked = (part: Partial<NewEnquiryInput> = {}): NewEnquiryInput => ({
  ...nothingWished,
  clientId: exampleClient.id,
  pipelineId: charters.id,
  personInChargeId: null,
  ...part,
})
const add = (of: World, part: Partial<NewEnquiryInput> = {}) =>
  of.carryOut(addEnquiry(of.slice(), asked(part), of.context()))
const enquiryOf = (of: World) => {
  const [found] = of.facts().enquiries
  if (!found) throw new Error('There is no enquiry')
  return found
}
const move = (of: World, to: string, lostReason = '') =>
  moveEnquiry(of.slice(), enquiryOf(of), { stage: to, lostReason }, of.context())
const moved = (of: World, to: string, lostReason = '') => of.carryOut(move(of, to, lostReason))
const refusal = (result: Result<readonly Effect[]>) => (result.ok ? 'done' : result.problem.sentence)
const said = (of: World) => of.events().map(({ sentence }) => sentence)
/** A form that leads into a pipeline. */
const leadingTo = (pipelineId: string): Form => ({
  id: 'fm_1',
  name: 'Ask us',
  title: 'Ask us',
  intro: '',
  language: 'en',
  asksPhone: 'no',
  pipelineId,
  serviceId: null,
  fields: [],
  thanks: 'Thank you.',
  isActive: true,
  revision: 1,
})
const atOnce = (id: string) =>
  exampleStep({ id, letterId: 'lt_starter-still', purpose: 'follow-up', timing: { kind: 'at once' } })

describe('an enquiry', () => {
  test('comes into the first stage, with its deadline and who takes that over', () => {
    const of = world()
    add(of, { what: 'Silver wedding', wishedOn: '2026-08-01', budgetCents: 160_000 })
    expect(enquiryOf(of)).toMatchObject({
      stage: 'new',
      what: 'Silver wedding',
      deadlineOn: '2026-05-16',
      personInChargeId: null,
      revision: 1,
    })
    expect(said(of)).toEqual(['Enquiry received.', 'Enquiry in “new”.'])
  })

  test.each<[string, Partial<NewEnquiryInput>, string]>([
    ['a pipeline there is not', { pipelineId: 'pl_none' }, 'There is no such pipeline.'],
    ['a service there is not', { serviceId: 'sv_none' }, 'There is no such service.'],
    ['somebody there is not', { personInChargeId: 'pe_none' }, 'There is no such person in the team.'],
    ['a day that is past', { wishedOn: '2026-05-13' }, 'This day is already past.'],
  ])('is refused for %s', (_, part, sentence) => {
    const of = world()
    expect(refusal(addEnquiry(of.slice(), asked(part), of.context()))).toBe(sentence)
  })

  test('moves on: who takes over, the new deadline, and the history says so', () => {
    const of = world()
    add(of)
    moved(of, 'offer')
    expect(enquiryOf(of)).toMatchObject({
      stage: 'offer',
      personInChargeId: tove.id,
      deadlineOn: '2026-05-28',
      revision: 2,
    })
    expect(said(of).at(-1)).toBe(
      'Enquiry in “offer”. In charge: Tove Lindqvist. Deadline: Thursday 28 May 2026.',
    )
    moved(of, 'planning')
    expect(enquiryOf(of)).toMatchObject({ personInChargeId: tove.id, deadlineOn: null })
  })

  test('is taken over by who took over from somebody who has left', () => {
    const of = world()
    of.changeSettings((present) => ({
      ...present,
      people: present.people.map((one) =>
        one.id === tove.id ? { ...one, isActive: false, handedToId: examplePerson.id } : one,
      ),
    }))
    add(of)
    moved(of, 'offer')
    expect(enquiryOf(of).personInChargeId).toBe(examplePerson.id)
  })

  test.each<[string, string]>([
    ['new', 'It is in “new” already.'],
    ['gone', 'There is no stage “gone” in “Charters” any more.'],
  ])('does not go into “%s”', (to, sentence) => {
    const of = world()
    add(of)
    expect(refusal(move(of, to))).toBe(sentence)
  })

  test('moved by two people at once: the second is told', () => {
    const of = world()
    add(of)
    const seen = enquiryOf(of)
    moved(of, 'offer')
    const second = moveEnquiry(of.slice(), seen, { stage: 'planning', lostReason: '' }, of.context())
    expect(refusal(second)).toBe(
      'Somebody has changed this enquiry meanwhile. Look at it again, then decide.',
    )
    expect(enquiryOf(of).stage).toBe('offer')
  })

  test('of many, those that cannot go stay, and the others go', () => {
    const of = world()
    add(of)
    add(of)
    const [first, second] = of.facts().enquiries
    if (!first || !second) throw new Error('There are no two')
    const stale = { id: second.id, revision: 7 }
    const done = moveEnquiries(of.slice(), [first, stale], { stage: 'offer', lostReason: '' }, of.context())
    expect(done.refusals.map(({ id }) => id)).toEqual([second.id])
    of.carryOut({ ok: true, value: done.effects })
    expect(
      of
        .facts()
        .enquiries.map((one) => one.stage)
        .sort(),
    ).toEqual(['new', 'offer'])
  })

  test('changes its facts: what is another is told, and nothing different is refused', () => {
    const of = world()
    add(of)
    const facts = {
      ...nothingWished,
      personInChargeId: null,
      partySize: 4,
      wishedOn: '2026-08-01',
      contactIds: [],
    }
    const change = (revision: number) =>
      changeEnquiry(
        of.slice(),
        enquiryOf(of).id,
        revision,
        { ...facts, deadlineOn: '2026-05-16' },
        of.context(),
      )
    of.carryOut(change(1))
    expect(said(of).at(-1)).toBe('Enquiry changed: date wished for Saturday 1 August 2026, people 4.')
    expect(refusal(change(2))).toBe('Nothing is different.')
    expect(refusal(change(1))).toBe(
      'Somebody has changed this enquiry meanwhile. Look at it again, then decide.',
    )
  })
})

describe('who hears of an enquiry', () => {
  const [primary] = exampleClient.contacts
  if (!primary) throw new Error('The example client has a contact')
  const second = {
    ...primary,
    id: 'ct_second',
    firstName: 'Inga',
    email: 'inga@mail.nowhere',
    isPrimary: false,
  }
  const both = { ...exampleClient, contacts: [primary, second] }
  const told = { ...atOnce('st_told'), recipients: [{ to: 'who takes part' as const, letterId: null }] }

  /** Whom the messages go to once those are chosen. */
  function reached(contactIds: readonly string[]): readonly (string | undefined)[] {
    const of = world([{ stage: 'offer', steps: [told] }])
    of.carryOut({ ok: true, value: [{ kind: 'put client', client: both }] })
    add(of)
    const facts = {
      ...nothingWished,
      personInChargeId: null,
      deadlineOn: '2026-05-16',
      contactIds: [...contactIds],
    }
    const chosen = changeEnquiry(of.slice(), enquiryOf(of).id, 1, facts, of.context())
    if (contactIds.length > 0) of.carryOut(chosen)
    moved(of, 'offer')
    of.advance(start + hourMs)
    return of.outbox().map(({ to }) => to.address)
  }

  test('are those who are chosen, else the primary contact', () => {
    expect(reached([second.id])).toEqual([second.email])
    expect(reached([second.id, primary.id])).toEqual([primary.email, second.email])
    expect(reached([])).toEqual([primary.email])
  })

  test('are contacts of the client', () => {
    expect(() => reached(['ct_stranger'])).toThrow(
      'One of these people is no contact of the client any more.',
    )
  })
})

describe('the evening letter', () => {
  const evening = exampleStep({
    id: 'st_evening',
    letterId: 'lt_progress',
    purpose: 'follow-up',
    timing: { kind: 'evening', atTime: '18:00' },
    sender: 'person in charge',
  })
  const ticked = (of: World, id: string, sentence: string) => {
    const line = { lineId: sentence, words: sentence, sentence }
    of.carryOut(tickLine(of.slice(), id, line, of.context()))
  }
  const inPlanning = (count: number) => {
    const of = world([{ stage: 'new', steps: [evening] }])
    for (let index = 0; index < count; index += 1) add(of)
    for (const { id } of of.facts().enquiries) {
      of.carryOut(setEvening(of.slice(), id, true, false, of.context()))
    }
    return of
  }

  test('of two enquiries of one client is one each, with its own lines', () => {
    const of = inPlanning(2)
    const [first, second] = of.facts().enquiries
    ticked(of, first?.id ?? '', 'The meadow is agreed.')
    ticked(of, second?.id ?? '', 'The cake is baked.')
    of.advance(start + dayMs)
    const texts = of.outbox().map(({ text }) => text)
    expect(texts).toHaveLength(2)
    for (const sentence of ['The meadow is agreed.', 'The cake is baked.']) {
      expect(texts.filter((text) => text.includes(sentence))).toHaveLength(1)
    }
  })

  test('comes from the business where nobody is in charge, else from who is', () => {
    const of = inPlanning(1)
    ticked(of, enquiryOf(of).id, 'The meadow is agreed.')
    of.advance(start + dayMs)
    const facts = { ...nothingWished, personInChargeId: tove.id, deadlineOn: null, contactIds: [] }
    const { id, revision } = enquiryOf(of)
    of.carryOut(changeEnquiry(of.slice(), id, revision, facts, of.context()))
    ticked(of, id, 'The cake is baked.')
    of.advance(start + 2 * dayMs)
    expect(of.outbox().map(({ from }) => from.name)).toEqual([
      exampleBusiness.senderName,
      expect.stringContaining(tove.name),
    ])
  })
})

describe('what is at work for an enquiry', () => {
  test('ends when it is lost, whatever its rules say; what the lost stage sends goes', () => {
    const of = world([
      { stage: 'offer', steps: [everyThreeDays('st_offer', 5)] },
      { stage: 'lost', steps: [atOnce('st_sorry')] },
    ])
    add(of)
    moved(of, 'offer')
    of.advance(start + 4 * dayMs)
    expect(of.outbox()).toHaveLength(2)
    moved(of, 'lost', 'Too dear.')
    of.advance(start + 30 * dayMs)
    expect(of.outbox()).toHaveLength(3)
    expect(of.facts().runs.map(({ state, stoppedReason }) => [state, stoppedReason])).toEqual([
      ['stopped', 'The enquiry is lost: “lost”.'],
      ['running', null],
    ])
    expect(enquiryOf(of).lostReason).toBe('Too dear.')
    expect(said(of)).toContain('Enquiry in “lost”. Because: Too dear.')
  })

  test('come back, what was said because it was lost holds no longer, and its stage begins anew', () => {
    const later = exampleStep({
      id: 'st_season',
      letterId: 'lt_starter-still',
      purpose: 'follow-up',
      timing: { kind: 'after previous', amount: 90, unit: 'days', atTime: '10:00' },
    })
    const of = world([
      { stage: 'offer', steps: [atOnce('st_offer')] },
      { stage: 'lost', steps: [atOnce('st_sorry'), later] },
    ])
    add(of)
    moved(of, 'lost', 'Never answered.')
    of.advance(start + hourMs)
    moved(of, 'offer')
    expect(enquiryOf(of).lostReason).toBe('')
    of.advance(start + 120 * dayMs)
    expect(of.outbox()).toHaveLength(2)
    expect(of.facts().runs[0]).toMatchObject({
      state: 'stopped',
      stoppedReason: 'The enquiry is open again.',
    })
  })

  test('asleep, it is asked after three and six months, then closed with the reason; awake, nothing more goes', () => {
    const design = starterDesigns.find(({ name }) => name === 'After a long silence')
    if (!design) throw new Error('There is no such design')
    const { steps, stops } = design
    const sleeping = () => {
      const of = world([{ stage: 'asleep', steps, stops }])
      add(of)
      moved(of, 'asleep')
      return of
    }
    const of = sleeping()
    of.advance(at(realZones, 'Europe/Berlin', '2026-11-14 10:01'))
    expect(of.outbox().map((one) => one.at)).toEqual([
      at(realZones, 'Europe/Berlin', '2026-08-14 10:00'),
      at(realZones, 'Europe/Berlin', '2026-11-14 10:00'),
    ])
    of.advance(at(realZones, 'Europe/Berlin', '2026-11-28 10:01'))
    expect(enquiryOf(of)).toMatchObject({ stage: 'lost', lostReason: 'No answer in six months.' })
    const awake = sleeping()
    awake.advance(at(realZones, 'Europe/Berlin', '2026-08-20 10:00'))
    awake.carryOut(recordHappening(awake.slice(), 'answered', '', awake.context()))
    awake.advance(at(realZones, 'Europe/Berlin', '2027-01-10 10:00'))
    expect([awake.outbox().length, enquiryOf(awake).stage]).toEqual([1, 'asleep'])
  })

  test('a quiet client is caught up with every three months after the last visit, until they book again', () => {
    const design = starterDesigns.find(({ name }) => name === 'A quiet client')
    if (!design) throw new Error('There is no such design')
    const { steps, stops, start: begins } = design
    const of = world()
    const quiet = { id: 'sq_quiet', name: 'Quiet', state: 'live', liveSince: 0, currentVersion: 1 } as const
    of.changeSettings((present) => ({
      ...present,
      sequences: [quiet],
      sequenceVersions: [
        {
          sequenceId: quiet.id,
          version: 1,
          start: begins,
          steps: steps.map((one) => ({ ...one, needsApproval: false })),
          stops: [...stops],
        },
      ],
    }))
    of.carryOut(makeBooking(of.slice(), exampleBookingInput, () => 0, of.context()))
    const went = () => of.outbox().map((one) => one.at)
    const wanted = ['2026-08-16', '2026-11-16'].map((day) => at(realZones, 'Europe/Berlin', `${day} 10:00`))
    of.advance(at(realZones, 'Europe/Berlin', '2026-12-01 10:00'))
    expect(went()).toEqual(wanted)
    const times = { startLocal: '2027-01-09T19:00', endLocal: '2027-01-09T21:00' }
    of.carryOut(makeBooking(of.slice(), { ...exampleBookingInput, ...times }, () => 0, of.context()))
    of.advance(at(realZones, 'Europe/Berlin', '2027-03-20 10:00'))
    expect(went()).toEqual(wanted)
    of.advance(at(realZones, 'Europe/Berlin', '2027-04-09 10:01'))
    expect(went().at(-1)).toBe(at(realZones, 'Europe/Berlin', '2027-04-09 10:00'))
  })

  test('is not begun for those that have ended, when a sequence is offered to what was there already', () => {
    const of = world()
    add(of)
    add(of)
    const [first] = of.facts().enquiries
    if (!first) throw new Error('There is none')
    of.carryOut(moveEnquiry(of.slice(), first, { stage: 'lost', lostReason: '' }, of.context()))
    const sequence = {
      id: 'sq_all',
      name: 'All',
      state: 'draft' as const,
      liveSince: null,
      currentVersion: 1,
    }
    of.changeSettings((present) => ({
      ...present,
      sequences: [sequence],
      sequenceVersions: [
        {
          sequenceId: 'sq_all',
          version: 1,
          start: startRule.parse({ on: 'enquiry received' }),
          steps: [],
          stops: [],
        },
      ],
    }))
    const offered = includable(sequence, of.slice(), of.now())
    expect(offered.map(({ subject }) => subject?.id)).toEqual([of.facts().enquiries[1]?.id])
  })
})

describe('a booking that comes of an enquiry', () => {
  const times = { startLocal: '2026-08-01T06:00', endLocal: '2026-08-01T09:00' }
  const input = { serviceId: exampleService.id, ...times, partySize: 2, status: 'confirmed' as const }
  const book = (of: World, part: Partial<typeof input> = {}) =>
    bookEnquiry(of.slice(), enquiryOf(of), { ...input, ...part }, () => 0, of.context())

  test('has what was answered and who is in charge; the enquiry is won, and its ladder ends', () => {
    const of = world([{ stage: 'offer', steps: [everyThreeDays('st_offer', 5)] }])
    const answers = [{ question: 'Where do you sleep?', answer: 'At the mill.' }]
    add(of, { answers, wishedOn: '2026-08-01' })
    moved(of, 'offer')
    of.advance(start + hourMs)
    of.carryOut(book(of))
    const [booking] = of.facts().bookings
    expect(booking).toMatchObject({ personInChargeId: tove.id, answers, partySize: 2, status: 'confirmed' })
    expect(enquiryOf(of)).toMatchObject({ stage: 'booked', bookingId: booking?.id })
    of.advance(start + 30 * dayMs)
    expect(of.outbox()).toHaveLength(1)
    expect(refusal(book(of))).toBe('A booking has come of it already.')
  })

  test('stays its booking when the enquiry is opened again; only once that is cancelled another can come of it', () => {
    const of = world()
    add(of)
    of.carryOut(book(of))
    const [first] = of.facts().bookings
    if (!first) throw new Error('There is no booking')
    moved(of, 'planning')
    expect(enquiryOf(of)).toMatchObject({ stage: 'planning', bookingId: first.id })
    expect(refusal(book(of))).toBe('A booking has come of it already.')
    of.carryOut(cancelBooking(of.slice(), first.id, first.revision, of.context()))
    of.carryOut(book(of))
    expect(enquiryOf(of)).toMatchObject({ stage: 'booked', bookingId: of.facts().bookings[1]?.id })
  })

  test('that cannot be made leaves the enquiry as it is', () => {
    const of = world()
    add(of)
    const full = bookEnquiry(of.slice(), enquiryOf(of), input, () => 1_000_000, of.context())
    expect(refusal(full)).toContain('no seats left')
    expect(refusal(book(of, { startLocal: '2026-05-01T06:00', endLocal: '2026-05-01T09:00' }))).toBe(
      'This start is already past.',
    )
    expect(enquiryOf(of).stage).toBe('new')
  })
})

describe('a pipeline', () => {
  const uses = { enquiriesIn: () => 0, namedBy: () => [] }
  const { id, revision, ...input } = charters
  const change = (stages: readonly Stage[], part: Partial<PipelineChange> = {}): PipelineChange => ({
    id,
    revision,
    pipeline: { ...input, stages: [...stages] },
    moved: [],
    ...part,
  })
  const put = (of: World, asks: PipelineChange, used: Parameters<typeof putPipeline>[2] = uses) =>
    putPipeline(of.slice().settings, asks, used, of.context())
  const without = (name: string) => charters.stages.filter((one) => one.name !== name)

  test.each<[string, readonly Stage[], string]>([
    ['an ended first stage', [stage('lost', { meaning: 'lost' }), ...charters.stages.slice(0, 4)], 'come in'],
    ['nothing that means won', without('booked'), 'means won'],
    ['nothing that means lost', without('lost'), 'means lost'],
    ['two of one name', [...charters.stages, stage('Offer')], 'the same name'],
  ])('is refused with %s', (_, stages, words) => {
    const parsed = pipeline.safeParse({ ...charters, stages })
    expect(parsed.success).toBe(false)
    expect(parsed.error?.issues.map(({ message }) => message).join()).toContain(words)
  })

  test('says where the enquiries of a stage go before it is taken out', () => {
    const of = world()
    const holds = { ...uses, enquiriesIn: (name: string) => (name === 'offer' ? 8 : 0) }
    expect(refusal(put(of, change(without('offer')), holds))).toBe(
      '8 enquiries are in “offer”: say which stage they go to.',
    )
    const gone = change(without('offer'), { moved: [{ from: 'offer', to: 'planning' }] })
    expect(refusal(put(of, gone, holds))).toBe('done')
    const many = { ...uses, enquiriesIn: () => 501 }
    expect(refusal(put(of, gone, many))).toBe(
      '501 enquiries are in “offer”. Take some of them into another stage first.',
    )
    const named = { ...uses, namedBy: () => ['sequence “An offer”'] }
    expect(refusal(put(of, gone, named))).toContain('“offer” is named by sequence “An offer”')
  })

  test('whose stage goes takes its enquiries along, and nothing starts because of that', () => {
    const of = world([{ stage: 'planning', steps: [atOnce('st_planning')] }])
    add(of)
    moved(of, 'offer')
    const gone = change(without('offer'), { moved: [{ from: 'offer', to: 'planning' }] })
    const effects = put(of, gone)
    if (!effects.ok) throw new Error(effects.problem.sentence)
    of.changeSettings((present) => settingsWithEffects(present, effects.value))
    of.carryOut({ ok: true, value: stagesMoved(of.slice(), charters, gone, of.context()) })
    of.advance(start + dayMs)
    expect(enquiryOf(of).stage).toBe('planning')
    expect(of.outbox()).toHaveLength(0)
  })

  test('whose stage is called something else keeps since when its enquiries stand in it', () => {
    const of = world()
    add(of)
    of.advance(start + dayMs)
    const renamed = charters.stages.with(0, stage('asked', { deadlineDays: 2 }))
    const asks = change(renamed, { moved: [{ from: 'new', to: 'asked' }] })
    of.carryOut({ ok: true, value: stagesMoved(of.slice(), charters, asks, of.context()) })
    expect(enquiryOf(of)).toMatchObject({
      stage: 'asked',
      stageAt: { asked: start },
      deadlineOn: '2026-05-16',
    })
  })

  test('is decided on as it was seen, and deleted only while it holds nothing and is not the only one', () => {
    const of = world()
    const { settings } = of.slice()
    expect(refusal(put(of, change(charters.stages, { revision: 7 })))).toContain('Somebody has changed this')
    expect(refusal(put(of, change(charters.stages, { id: null })))).toBe(
      'There is a pipeline “Charters” already.',
    )
    expect(refusal(removePipeline(settings, id, 3, of.context()))).toBe(
      '3 enquiries are in it. Archive it instead.',
    )
    expect(refusal(removePipeline(settings, id, 0, of.context()))).toBe(
      'It is the only one. Add another one first.',
    )
    const two = { ...settings, pipelines: [charters, { ...charters, id: 'pl_2', name: 'Other' }] }
    expect(refusal(removePipeline(two, id, 0, of.context()))).toBe('done')
    const led = { ...two, forms: [leadingTo(id)] }
    const sentence = 'The form “Ask us” leads into it. Let it lead elsewhere, or close it, first.'
    expect(refusal(removePipeline(led, id, 0, of.context()))).toBe(sentence)
    const archived = change(charters.stages, { pipeline: { ...input, isActive: false } })
    expect(refusal(putPipeline(led, archived, uses, of.context()))).toBe(sentence)
  })
})

type Does =
  | { readonly kind: 'move'; readonly to: string }
  | { readonly kind: 'answer' }
  | { readonly kind: 'wish'; readonly on: string | null }
  | { readonly kind: 'book'; readonly day: number }

/** What may happen in the life of an enquiry, with the hours that pass before it. */
const act = fc.record({
  hours: fc.integer({ min: 0, max: 120 }),
  does: fc.oneof<fc.Arbitrary<Does>[]>(
    fc.record({
      kind: fc.constant('move' as const),
      to: fc.constantFrom(...charters.stages.map(({ name }) => name)),
    }),
    fc.constant({ kind: 'answer' as const }),
    fc.record({
      kind: fc.constant('wish' as const),
      on: fc.constantFrom('2026-05-20', '2026-06-01', '2026-08-01', null),
    }),
    fc.record({ kind: fc.constant('book' as const), day: fc.integer({ min: 10, max: 28 }) }),
  ),
})

describe('random lives of an enquiry', () => {
  const stops = [endsOn('answered'), endsOn('booked'), endsOn('enquiry stage entered')]
  const ladders: readonly Ladder[] = ['new', 'offer', 'planning', 'lost'].map((name) => ({
    stage: name,
    steps: [everyThreeDays(`st_${name}`, 6)],
    stops,
  }))

  function decide(of: World, does: Does): Result<readonly Effect[]> {
    const enquiry = enquiryOf(of)
    switch (does.kind) {
      case 'move':
        return move(of, does.to)
      case 'answer':
        return recordHappening(of.slice(), 'answered', '', of.context())
      case 'wish':
        return setWishedDate(of.slice(), enquiry.id, does.on, of.context())
      case 'book': {
        const times = { startLocal: `2026-07-${does.day}T06:00`, endLocal: `2026-07-${does.day}T09:00` }
        const input = { serviceId: exampleService.id, ...times, partySize: 1, status: 'confirmed' as const }
        return bookEnquiry(of.slice(), enquiry, input, () => 0, of.context())
      }
    }
  }

  /** What cannot be done at that moment is not. */
  function live(of: World, does: Does) {
    const decided = decide(of, does)
    if (decided.ok) of.carryOut(decided)
  }

  test('have at most one ladder at a time, nothing after what ended it, and nothing after the day', () => {
    fc.assert(
      fc.property(fc.array(act, { minLength: 1, maxLength: 10 }), (acts) => {
        const of = world(ladders)
        add(of)
        for (const one of acts) {
          of.advance(of.now() + one.hours * hourMs)
          live(of, one.does)
          const running = of.facts().runs.filter(({ state }) => state === 'running')
          expect(running.length).toBeLessThanOrEqual(1)
        }
        of.advance(of.now() + 60 * dayMs)
        const { runs, sends } = of.facts()
        for (const send of sends) {
          const run = runs.find(({ id }) => id === send.runId)
          if (send.sentAt === null || !run) continue
          expect(send.sentAt).toBeLessThanOrEqual(run.stoppedAt ?? Infinity)
        }
        const { wishedOn, wishedSetAt } = enquiryOf(of)
        const over =
          wishedOn === null ? Infinity : at(realZones, 'Europe/Berlin', `${wishedOn} 00:00`) + dayMs
        const late = sends.filter(({ sentAt }) => (sentAt ?? 0) >= Math.max(over, wishedSetAt ?? 0))
        expect(late).toEqual([])
      }),
      { numRuns: 60 },
    )
  })
})
