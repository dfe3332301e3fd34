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

/** An invoice of the demo that is not paid when it begins. */
export interface DemoInvoice {
  readonly client: string
  readonly issuedAt: string
  readonly dueOn: string
  readonly amountCents: number
}

export const invoices: readonly DemoInvoice[] = [
  { client: 'abendroth', issuedAt: '2026-05-05T11:00', dueOn: '2026-06-12', amountCents: 41_000 },
  { client: 'estevao', issuedAt: '2026-05-12T19:40', dueOn: '2026-06-03', amountCents: 61_500 },
  { client: 'dravec', issuedAt: '2026-05-13T16:45', dueOn: '2026-05-27', amountCents: 41_000 },
]
