import { describe, expect, test } from '@jest/globals'
import { businessInput, serviceInput } from '#core/engine/commands/settingsCommands.ts'
import { standardOffer } from '#core/model/offer.ts'
import { exampleBusiness, exampleService } from '#core/rehearsal/exampleBusiness.ts'
import { draftOfBusiness, readBusinessDraft } from './businessDraft.ts'
import { draftOfService, readServiceDraft } from './serviceDraft.ts'

const service = serviceInput.strip().parse({
  ...exampleService,
  offer: {
    ...standardOffer,
    price: { cents: 12_350, per: 'booking' },
    starts: {
      kind: 'departures',
      departures: [{ at: '05:20', weekdays: [1, 7], from: '2026-05-01', to: '2026-05-31' }],
      holidays: 'closed',
      closedDates: ['2026-05-14'],
    },
    questions: [
      { id: 'qu_1', kind: 'choice', label: 'How?', options: ['So', 'Otherwise'], isRequired: true },
      { id: 'qu_2', kind: 'text', label: 'Why?', isRequired: false },
    ],
  },
})

describe('the form of a service', () => {
  test('means what it was filled with, by departures or by hours', () => {
    expect(readServiceDraft(draftOfService(service)).service).toEqual(service)
    const byHours = { ...service, offer: { ...service.offer, starts: standardOffer.starts } }
    expect(readServiceDraft(draftOfService(byHours)).service).toEqual(byHours)
  })

  test('a new one has one seat, one booking at a time, two hours before and after, and no name yet', () => {
    const draft = draftOfService(null)
    expect([draft.isShared, draft.bufferBeforeMinutes, draft.bufferAfterMinutes]).toEqual([false, 120, 120])
    expect(readServiceDraft(draft).faults).toEqual({ name: 'A service needs a name.' })
  })

  test('faults stand at their fields', () => {
    const draft = draftOfService(service)
    const [departure] = draft.departures
    if (!departure) throw new Error('It has one')
    expect(
      readServiceDraft({
        ...draft,
        name: '',
        seats: '',
        price: -1,
        feePercent: 300,
        departures: [{ ...departure, weekdays: [], to: '2026-04-01' }],
        questions: [{ id: 'qu_1', kind: 'choice', label: '', options: 'One', isRequired: true }],
      }).faults,
    ).toEqual({
      name: 'A service needs a name.',
      seats: 'Give a number.',
      price: 'Not below 0.',
      feePercent: 'At most 100 %.',
      'departures.0.to': 'The last day lies before the first.',
      'departures.0.weekdays': 'Choose at least one weekday.',
      'questions.0.label': 'A question needs its words.',
      'questions.0.options': 'Give at least two options.',
    })
    const byHours = { ...draftOfService(null), name: 'Lesson', hours: ['8-9', '9-8', '', '', '', '', 'noon'] }
    expect(readServiceDraft(byHours).faults).toEqual({
      'hours.1': expect.stringContaining('Hours look like'),
      'hours.6': expect.stringContaining('Hours look like'),
    })
  })
})

describe('the form of the business', () => {
  const business = businessInput.strip().parse(exampleBusiness)
  test('means what it was filled with', () => {
    expect(readBusinessDraft(draftOfBusiness(business)).business).toEqual(business)
  })

  test('faults stand at their fields', () => {
    const draft = draftOfBusiness(business)
    const officeHours = { ...draft.officeHours, weekly: ['x', ...draft.officeHours.weekly.slice(1)] }
    expect(readBusinessDraft({ ...draft, name: ' ', settleMinutes: '', officeHours }).faults).toEqual({
      name: 'The business needs a name.',
      settleMinutes: 'Give a number.',
      'officeHours.weekly.0': expect.stringContaining('Hours look like'),
    })
  })
})
