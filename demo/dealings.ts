/** An enquiry of the demo that is open when it begins. Times are on the business's clock. */
export interface DemoEnquiry {
  readonly client: string
  readonly receivedAt: string
  readonly stage: string
  readonly wishedOn: string | null
}

export const enquiries: readonly DemoEnquiry[] = [
  { client: 'sommerfeld', receivedAt: '2026-05-04T10:12', stage: 'new', wishedOn: '2026-08-22' },
  { client: 'hartung', receivedAt: '2026-04-28T16:40', stage: 'offer', wishedOn: '2026-07-11' },
  { client: 'kestrel', receivedAt: '2026-05-11T20:05', stage: 'new', wishedOn: null },
  { client: 'grashof', receivedAt: '2026-04-15T09:30', stage: 'planning', wishedOn: '2026-06-27' },
]
