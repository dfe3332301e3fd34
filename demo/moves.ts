import type { OnePressMove } from '#core/model/onePressMove.ts'

const plain = { onlyIf: null, isActive: true, revision: 1 } as const

export const sendAgreement: OnePressMove = {
  ...plain,
  id: 'mv_agreement',
  name: 'Send the agreement',
  of: 'enquiry',
  onlyIf: {
    all: [
      { field: 'enquiry.stage', comparison: 'is', value: 'planning' },
      { none: [{ field: 'client.tag', comparison: 'is', value: 'charter' }] },
    ],
  },
  parts: [
    { kind: 'date stamp', label: 'agreement sent' },
    { kind: 'tag', tag: 'charter', adds: true },
    { kind: 'task', title: 'Ask whether the agreement came', dueInDays: 5 },
    { kind: 'field', field: 'Agreement', value: 'sent' },
  ],
}

/** What the balloonists do in one press. */
export const onePressMoves: readonly OnePressMove[] = [
  sendAgreement,
  {
    ...plain,
    id: 'mv_sleep',
    name: 'Let it sleep until they are ready',
    of: 'enquiry',
    onlyIf: { field: 'enquiry.stage', comparison: 'is one of', value: ['new', 'offer'] },
    parts: [
      { kind: 'stage', stage: 'asleep', reason: '' },
      { kind: 'field', field: 'Asleep because', value: 'they asked for time' },
    ],
  },
  {
    ...plain,
    id: 'mv_weather',
    name: 'Call it off for the weather',
    of: 'booking',
    onlyIf: { field: 'booking.own status', comparison: 'is', value: 'weather watch' },
    parts: [
      { kind: 'status', status: 'cancelled' },
      { kind: 'tag', tag: 'waits for weather', adds: true },
      { kind: 'task', title: 'Offer another morning', dueInDays: 1 },
      { kind: 'field', field: 'Called off', value: 'for the weather' },
    ],
  },
  {
    ...plain,
    id: 'mv_papers',
    name: 'The papers are in',
    of: 'booking',
    onlyIf: { field: 'booking.status', comparison: 'is', value: 'confirmed' },
    parts: [
      { kind: 'status', status: 'papers in' },
      { kind: 'date stamp', label: 'papers in' },
    ],
  },
]
