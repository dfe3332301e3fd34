import type { OwnStatus } from '#core/model/ownStatus.ts'

const plain = {
  meaning: 'confirmed',
  after: [],
  serviceIds: [],
  comes: null,
  isActive: true,
  revision: 1,
} as const

/** The words the balloonists have for a booking beside those that every booking knows. */
export const ownStatuses: readonly Omit<OwnStatus, 'comesSince'>[] = [
  { ...plain, id: 'os_papers', name: 'papers in', after: [], serviceIds: [] },
  {
    ...plain,
    id: 'os_watch',
    name: 'weather watch',
    after: ['confirmed', 'papers in'],
    serviceIds: ['sv_sunrise', 'sv_evening', 'sv_private', 'sv_island'],
    comes: { hours: 48, side: 'before', of: 'start' },
  },
]
