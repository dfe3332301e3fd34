import type { Pipeline, Stage } from '#core/model/pipeline.ts'

const line = (id: string, words: string, sentence = '') => ({ id: `ln_${id}`, words, sentence })
const plain: Omit<Stage, 'name'> = {
  meaning: 'open',
  personInChargeId: null,
  deadlineDays: null,
  checklist: [],
}

/** The way of a private charter, from the first question to the basket. */
export const charters: Pipeline = {
  id: 'pl_enquiries',
  name: 'Private charters',
  stages: [
    {
      ...plain,
      name: 'new',
      personInChargeId: 'pe_ilse',
      deadlineDays: 7,
      checklist: [line('day', 'Is the basket free that day?'), line('pilot', 'Is a pilot free that day?')],
    },
    {
      ...plain,
      name: 'offer',
      personInChargeId: 'pe_bram',
      deadlineDays: 21,
      checklist: [line('called', 'Called to ask how many they are')],
    },
    {
      ...plain,
      name: 'planning',
      personInChargeId: 'pe_maren',
      deadlineDays: 45,
      checklist: [
        line(
          'meadow',
          'Meadow agreed with the farmer',
          'The meadow to start from is agreed with the farmer.',
        ),
        line('pilot2', 'Pilot and crew in the roster', 'Your pilot and crew are in the roster.'),
        line(
          'toast',
          'Glasses and something cold ordered',
          'What we raise a glass with after the landing is ordered.',
        ),
        line('insured', 'Insurance told'),
        line('cake', 'Cake from the village', 'The cake comes from the village bakery, as you wished.'),
      ],
    },
    { ...plain, name: 'asleep' },
    { ...plain, name: 'booked', meaning: 'won' },
    { ...plain, name: 'lost', meaning: 'lost' },
  ],
  isActive: true,
  revision: 1,
}

type Step = readonly [
  what: 'answered' | 'offer' | 'planning' | 'asleep' | 'booked' | 'lost',
  at: string,
  why?: string,
]

/** An enquiry of the demo: what was wished for, and what came of it. Times are on the business's clock. */
export interface DemoEnquiry {
  readonly client: string
  readonly receivedAt: string
  readonly wishedOn: string | null
  readonly what: string
  readonly partySize: number | null
  readonly budgetCents: number | null
  readonly source: string
  readonly then: readonly Step[]
}

type Row = readonly [
  client: string,
  receivedAt: string,
  wishedOn: string | null,
  what: string,
  partySize: number | null,
  euros: number | null,
  source: string,
  ...then: readonly Step[],
]

// prettier-ignore
const rows: readonly Row[] = [
  ['xaver', '2026-01-19T10:12', '2026-03-14', 'Stag morning', 6, 900, 'web page', ['offer', '2026-01-21T09:30'], ['lost', '2026-02-12T16:00', 'Went for go-karts.']],
  ['pilgrim', '2026-01-22T18:40', '2026-02-21', 'Proposal in the snow', 2, 1400, 'a friend', ['offer', '2026-01-23T11:00'], ['answered', '2026-01-26T20:15'], ['booked', '2026-01-27T09:10']],
  ['calloway', '2026-01-30T08:20', '2026-04-04', 'Easter with the family', 5, null, 'web page', ['offer', '2026-02-02T10:00'], ['lost', '2026-02-20T15:00', 'Never answered.']],
  ['merriweather', '2026-02-05T21:05', '2026-05-02', 'Ruby wedding', 4, 1600, 'paper', ['offer', '2026-02-06T10:00'], ['answered', '2026-02-10T07:45'], ['planning', '2026-02-10T14:00'], ['booked', '2026-02-17T11:20']],
  ['stellamaris', '2026-02-09T12:30', null, 'Choir outing, date open', 6, null, 'fair', ['asleep', '2026-03-02T09:00']],
  ['eberwein', '2026-02-14T09:50', '2026-06-06', 'Sixtieth birthday', 4, 1200, 'web page', ['offer', '2026-02-16T10:30'], ['lost', '2026-03-10T10:00', 'Too dear.']],
  ['thackeray', '2026-02-19T17:15', '2026-04-11', 'Book launch', 3, 1500, 'a friend', ['offer', '2026-02-20T10:00'], ['answered', '2026-02-22T13:40'], ['booked', '2026-02-23T10:00']],
  ['quincey', '2026-02-26T14:00', '2026-05-09', 'Team day', 6, 2000, 'fair', ['offer', '2026-02-27T10:15'], ['lost', '2026-03-20T12:00', 'Never answered.']],
  ['haverkamp', '2026-03-04T10:35', '2026-05-30', 'Wedding morning', 2, 1800, 'web page', ['offer', '2026-03-05T10:00'], ['answered', '2026-03-08T19:05'], ['planning', '2026-03-09T09:00'], ['booked', '2026-03-24T16:40']],
  ['delacourt', '2026-03-09T22:10', '2026-07-14', 'Fourteenth of July', 4, 1300, 'web page', ['offer', '2026-03-11T10:00'], ['lost', '2026-04-02T10:00', 'Too dear.']],
  ['jessamine', '2026-03-13T08:55', null, 'A present, date open', 2, 700, 'paper', ['offer', '2026-03-16T11:00'], ['asleep', '2026-04-07T09:30']],
  ['norgaard', '2026-03-17T16:20', '2026-06-20', 'Midsummer', 4, 1500, 'a friend', ['offer', '2026-03-18T10:00'], ['answered', '2026-03-20T09:15'], ['booked', '2026-03-23T14:00']],
  ['gallagher', '2026-03-22T19:30', '2026-08-08', 'Photographs for a brewery', 3, null, 'web page', ['offer', '2026-03-24T10:00'], ['lost', '2026-04-15T10:00', 'Never answered.']],
  ['zeidler', '2026-03-27T11:45', '2026-07-25', 'Golden wedding', 4, 1700, 'paper', ['offer', '2026-03-30T10:00'], ['answered', '2026-04-01T18:20'], ['planning', '2026-04-02T09:00']],
  ['farnham', '2026-04-01T09:10', '2026-06-13', 'Reunion of four', 4, 1200, 'fair', ['offer', '2026-04-02T10:00'], ['lost', '2026-04-27T10:00', 'Could not agree on a day.']],
  ['castellan', '2026-04-07T20:40', '2026-09-05', 'Harvest supper in the air', 6, 2400, 'web page', ['offer', '2026-04-09T10:00'], ['answered', '2026-04-12T10:30'], ['planning', '2026-04-13T09:15']],
  ['grashof', '2026-04-15T09:30', '2026-06-27', 'Silver wedding', 4, 1600, 'a friend', ['offer', '2026-04-16T10:00'], ['answered', '2026-04-17T12:10'], ['planning', '2026-04-20T09:00']],
  ['yarrow', '2026-04-17T13:25', '2026-08-15', 'Hen morning', 6, 1100, 'web page', ['offer', '2026-04-20T10:00'], ['lost', '2026-05-08T10:00', 'Too early in the morning.']],
  ['ullmann', '2026-04-20T10:05', null, 'Retirement present', 2, 800, 'paper', ['offer', '2026-04-21T10:00']],
  ['vandermeer', '2026-04-23T15:50', '2026-08-01', 'Proposal at sunrise', 2, 1900, 'a friend', ['offer', '2026-04-24T10:00'], ['answered', '2026-04-27T08:30'], ['planning', '2026-04-27T14:20']],
  ['hartung', '2026-04-28T16:40', '2026-07-11', 'Seventieth birthday', 5, 1500, 'web page', ['offer', '2026-04-29T10:00']],
  ['brockhaus', '2026-04-29T21:15', '2026-09-19', 'Firm jubilee', 6, 3000, 'fair', ['offer', '2026-05-01T10:00']],
  ['sommerfeld', '2026-05-04T10:12', '2026-08-22', 'Family photograph', 6, null, 'web page'],
  ['oberhauser', '2026-05-08T18:30', '2026-07-18', 'Tenth wedding day', 2, 1200, 'paper'],
  ['kestrel', '2026-05-11T20:05', null, 'Two brothers, date open', 2, null, 'a friend'],
]

/** Twenty-five wishes for a basket of one's own. */
export const enquiries: readonly DemoEnquiry[] = rows.map(
  ([client, receivedAt, wishedOn, what, partySize, euros, source, ...then]) => ({
    client,
    receivedAt,
    wishedOn,
    what,
    partySize,
    budgetCents: euros === null ? null : euros * 100,
    source,
    then,
  }),
)

/** Agreements that were sent by one press, and when and how they were signed; null: they are not yet. */
export const agreements: readonly {
  readonly client: string
  readonly sentAt: string
  readonly signed: { readonly at: string; readonly name: string } | null
}[] = [
  {
    client: 'merriweather',
    sentAt: '2026-02-12T10:10',
    signed: { at: '2026-02-13T19:22', name: 'Barnaby Merriwether' },
  },
  {
    client: 'haverkamp',
    sentAt: '2026-03-12T14:05',
    signed: { at: '2026-03-12T21:40', name: 'Swantje Haverkampff' },
  },
  {
    client: 'zeidler',
    sentAt: '2026-04-08T09:30',
    signed: { at: '2026-04-11T08:15', name: 'Emmerich Zeidlermann' },
  },
  { client: 'grashof', sentAt: '2026-05-12T16:20', signed: null },
]

/** What was ticked of the checklists, and from when on it is told in the evening. */
export const progress: readonly {
  readonly client: string
  readonly tellsFrom: string
  readonly ticks: readonly (readonly [line: string, at: string])[]
}[] = [
  {
    client: 'grashof',
    tellsFrom: '2026-04-20T09:05',
    ticks: [
      ['ln_meadow', '2026-04-28T11:20'],
      ['ln_pilot2', '2026-05-06T15:10'],
      ['ln_insured', '2026-05-06T15:12'],
    ],
  },
  {
    client: 'vandermeer',
    tellsFrom: '2026-04-27T14:25',
    ticks: [
      ['ln_meadow', '2026-05-13T18:40'],
      ['ln_toast', '2026-05-14T07:20'],
      ['ln_pilot2', '2026-05-14T07:25'],
    ],
  },
]
