import { describe, expect, test } from '@jest/globals'
import type { PipelineView } from '#core/api/enquiryEndpoints.ts'
import type { EnquiryLine } from '#core/api/enquiryViews.ts'
import { nothingWished } from '#core/model/enquiry.ts'
import type { Pipeline } from '#core/model/pipeline.ts'
import { draftOfPipeline, moved, newStage, readPipeline, takenOut } from '../setup/pipelineDraft.ts'
import { bandsOf, isLate, rowsOf, type BoardFilters } from './rows.ts'
import { draftOfWish, readWish } from './wishDraft.ts'

const stage = (name: string, meaning: 'open' | 'won' | 'lost' = 'open') => ({
  name,
  meaning,
  personInChargeId: null,
  deadlineDays: null,
  checklist: [],
})
const pipeline: Pipeline = {
  id: 'pl_1',
  name: 'Charters',
  stages: [stage('new'), stage('offer'), stage('booked', 'won'), stage('lost', 'lost')],
  isActive: true,
  revision: 3,
}
const line = (id: string, part: Partial<EnquiryLine> = {}): EnquiryLine => ({
  id,
  clientId: 'cl_1',
  clientName: 'Oona Brackwater',
  serviceId: null,
  serviceName: null,
  stage: 'new',
  what: '',
  partySize: null,
  budgetCents: null,
  source: '',
  wishedOn: null,
  deadlineOn: null,
  personInChargeId: null,
  personName: null,
  receivedAt: 0,
  bookingId: null,
  revision: 1,
  stageSince: 0,
  coming: [],
  ...part,
})
const viewOf = (lines: readonly EnquiryLine[]): PipelineView => ({
  pipeline,
  sums: pipeline.stages.map(({ name }) => ({ name, count: 0, cents: 0, sequences: [] })),
  lines: [...lines],
})
const all: BoardFilters = { words: '', personId: null, serviceId: null, isLate: false }
const today = '2026-05-14'
const idsOf = (lines: readonly EnquiryLine[], filters: Partial<BoardFilters> = {}) =>
  bandsOf(viewOf(lines), { ...all, ...filters }, today).flatMap((band) => band.lines.map(({ id }) => id))

describe('the board', () => {
  test('shows open stages as bands, what is due first on top', () => {
    const lines = [
      line('en_none', { receivedAt: 2 }),
      line('en_older', { receivedAt: 1 }),
      line('en_day0', { wishedOn: '2026-06-01' }),
      line('en_deadline', { deadlineOn: '2026-05-20', wishedOn: '2026-08-01' }),
      line('en_offer', { stage: 'offer' }),
    ]
    const bands = bandsOf(viewOf(lines), all, today)
    expect(bands.map((band) => band.stage.name)).toEqual(['new', 'offer'])
    expect(idsOf(lines)).toEqual(['en_deadline', 'en_day0', 'en_older', 'en_none', 'en_offer'])
  })

  test.each<[string, Partial<BoardFilters>, string[]]>([
    ['words of the client, however written', { words: 'BRÁCK' }, ['en_a', 'en_b', 'en_c']],
    ['words of what for', { words: 'silver' }, ['en_b']],
    ['who is in charge', { personId: 'pe_tove' }, ['en_a']],
    ['that nobody is', { personId: '' }, ['en_b', 'en_c']],
    ['the service', { serviceId: 'sv_1' }, ['en_c']],
    ['a deadline that has passed', { isLate: true }, ['en_a']],
  ])('shows only what fits %s', (_, filters, ids) => {
    const lines = [
      line('en_a', { personInChargeId: 'pe_tove', deadlineOn: '2026-05-13' }),
      line('en_b', { what: 'Silver wedding', deadlineOn: '2026-05-14' }),
      line('en_c', { serviceId: 'sv_1' }),
    ]
    expect(idsOf(lines, filters)).toEqual(ids)
  })

  test('of a folded band only its head is a row; one with nothing says so', () => {
    const bands = bandsOf(viewOf([line('en_a')]), all, today)
    expect(rowsOf(bands, new Set()).map(({ kind }) => kind)).toEqual(['band', 'line', 'band', 'nothing'])
    expect(rowsOf(bands, new Set(['new', 'offer'])).map(({ kind }) => kind)).toEqual(['band', 'band'])
  })

  test('a deadline has passed on the day after', () => {
    expect([isLate({ deadlineOn: today }, today), isLate({ deadlineOn: today }, '2026-05-15')]).toEqual([
      false,
      true,
    ])
    expect(isLate({ deadlineOn: null }, today)).toBe(false)
  })
})

describe('what is wished for, as it is typed', () => {
  test('is what it was when nothing is changed', () => {
    const wish = {
      ...nothingWished,
      what: 'Silver wedding',
      partySize: 4,
      budgetCents: 12_345,
      wishedOn: today,
    }
    expect(readWish(draftOfWish(wish))).toEqual({ wish })
  })

  test.each<[string, object, string]>([
    ['half a person', { partySize: 1.5 }, 'partySize'],
    ['words for a number', { budget: 'much' }, 'budgetCents'],
    ['less than nothing', { budget: -1 }, 'budgetCents'],
    ['too long a text', { what: 'x'.repeat(201) }, 'what'],
  ])('says at its field what is wrong with %s', (_, part, field) => {
    const read = readWish({ ...draftOfWish(nothingWished), ...part })
    expect('errors' in read && Object.keys(read.errors)).toEqual([field])
  })
})

describe('the stages of a pipeline, as they are typed', () => {
  const draft = draftOfPipeline(pipeline)
  const meantOf = (changed: typeof draft) => {
    const read = readPipeline(pipeline, changed, true)
    if ('faults' in read) throw new Error(JSON.stringify(read.faults))
    return read.meant
  }

  test('are what they were when nothing is changed', () => {
    const { name, stages, isActive } = pipeline
    expect(meantOf(draft)).toEqual({ pipeline: { name, stages, isActive }, moved: [] })
  })

  test('called something else take their enquiries along; taken out, those go where it is said', () => {
    const [first, second, ...others] = draft.stages
    if (!first || !second) throw new Error('There are no stages')
    const renamed = { ...draft, stages: [{ ...first, name: ' asked ' }, second, ...others] }
    expect(meantOf(renamed).moved).toEqual([{ from: 'new', to: 'asked' }])
    const out = { ...draft, stages: [first, ...others], goesTo: { offer: 'new' } }
    expect(takenOut(pipeline, out)).toEqual(['offer'])
    expect(meantOf(out).moved).toEqual([{ from: 'offer', to: 'new' }])
  })

  test('say at their field what is wrong', () => {
    const read = readPipeline(pipeline, { ...draft, stages: [...draft.stages, newStage()] }, true)
    expect('faults' in read && read.faults).toMatchObject({ 'stages.4.name': 'A stage needs a name.' })
  })

  test('go earlier and later, and no further than there are', () => {
    expect(moved(['a', 'b', 'c'], 1, -1)).toEqual(['b', 'a', 'c'])
    expect(moved(['a', 'b', 'c'], 1, 1)).toEqual(['a', 'c', 'b'])
    expect(moved(['a', 'b'], 0, -1)).toEqual(['a', 'b'])
    expect(moved(['a'], 5, 1)).toEqual(['a'])
  })
})
