/** An enquiry of the demo: whether its client answered, and the stages it came through. Times are on the business's clock. */
export interface DemoEnquiry {
  readonly client: string
  readonly receivedAt: string
  readonly wishedOn: string | null
  readonly then: readonly (readonly [
    what: 'answered' | 'offer' | 'planning' | 'booked' | 'lost',
    at: string,
  ])[]
}

type Row = readonly [
  client: string,
  receivedAt: string,
  wishedOn: string | null,
  ...then: DemoEnquiry['then'],
]

// prettier-ignore
const rows: readonly Row[] = [
  ['xaver', '2026-01-19T10:12', '2026-03-14', ['offer', '2026-01-21T09:30'], ['lost', '2026-02-12T16:00']],
  ['pilgrim', '2026-01-22T18:40', '2026-02-21', ['offer', '2026-01-23T11:00'], ['answered', '2026-01-26T20:15'], ['booked', '2026-01-27T09:10']],
  ['calloway', '2026-01-30T08:20', '2026-04-04', ['offer', '2026-02-02T10:00'], ['lost', '2026-02-20T15:00']],
  ['merriweather', '2026-02-05T21:05', '2026-05-02', ['offer', '2026-02-06T10:00'], ['answered', '2026-02-10T07:45'], ['planning', '2026-02-10T14:00'], ['booked', '2026-02-17T11:20']],
  ['stellamaris', '2026-02-09T12:30', null, ['lost', '2026-03-02T09:00']],
  ['eberwein', '2026-02-14T09:50', '2026-06-06', ['offer', '2026-02-16T10:30'], ['lost', '2026-03-10T10:00']],
  ['thackeray', '2026-02-19T17:15', '2026-04-11', ['offer', '2026-02-20T10:00'], ['answered', '2026-02-22T13:40'], ['booked', '2026-02-23T10:00']],
  ['quincey', '2026-02-26T14:00', '2026-05-09', ['offer', '2026-02-27T10:15'], ['lost', '2026-03-20T12:00']],
  ['haverkamp', '2026-03-04T10:35', '2026-05-30', ['offer', '2026-03-05T10:00'], ['answered', '2026-03-08T19:05'], ['planning', '2026-03-09T09:00'], ['booked', '2026-03-24T16:40']],
  ['delacourt', '2026-03-09T22:10', '2026-07-14', ['offer', '2026-03-11T10:00'], ['lost', '2026-04-02T10:00']],
  ['jessamine', '2026-03-13T08:55', null, ['offer', '2026-03-16T11:00'], ['lost', '2026-04-07T09:30']],
  ['norgaard', '2026-03-17T16:20', '2026-06-20', ['offer', '2026-03-18T10:00'], ['answered', '2026-03-20T09:15'], ['booked', '2026-03-23T14:00']],
  ['gallagher', '2026-03-22T19:30', '2026-08-08', ['offer', '2026-03-24T10:00'], ['lost', '2026-04-15T10:00']],
  ['zeidler', '2026-03-27T11:45', '2026-07-25', ['offer', '2026-03-30T10:00'], ['answered', '2026-04-01T18:20'], ['planning', '2026-04-02T09:00']],
  ['farnham', '2026-04-01T09:10', '2026-06-13', ['offer', '2026-04-02T10:00'], ['lost', '2026-04-27T10:00']],
  ['castellan', '2026-04-07T20:40', '2026-09-05', ['offer', '2026-04-09T10:00'], ['answered', '2026-04-12T10:30'], ['planning', '2026-04-13T09:15']],
  ['grashof', '2026-04-15T09:30', '2026-06-27', ['offer', '2026-04-16T10:00'], ['answered', '2026-04-17T12:10'], ['planning', '2026-04-20T09:00']],
  ['yarrow', '2026-04-17T13:25', '2026-08-15', ['offer', '2026-04-20T10:00'], ['lost', '2026-05-08T10:00']],
  ['ullmann', '2026-04-20T10:05', null, ['offer', '2026-04-21T10:00']],
  ['vandermeer', '2026-04-23T15:50', '2026-08-01', ['offer', '2026-04-24T10:00'], ['answered', '2026-04-27T08:30'], ['planning', '2026-04-27T14:20']],
  ['hartung', '2026-04-28T16:40', '2026-07-11', ['offer', '2026-04-29T10:00']],
  ['brockhaus', '2026-04-29T21:15', '2026-09-19', ['offer', '2026-05-01T10:00']],
  ['sommerfeld', '2026-05-04T10:12', '2026-08-22'],
  ['oberhauser', '2026-05-08T18:30', '2026-07-18'],
  ['kestrel', '2026-05-11T20:05', null],
]

/** Twenty-five wishes for a basket of one's own. */
export const enquiries: readonly DemoEnquiry[] = rows.map(([client, receivedAt, wishedOn, ...then]) => ({
  client,
  receivedAt,
  wishedOn,
  then,
}))
