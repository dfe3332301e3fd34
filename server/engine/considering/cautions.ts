import type { Caution } from '#core/api/announcements.ts'
import { cautionsOf, isPlacedAnew } from '#core/booking/cautions.ts'
import type { Effect } from '#core/engine/effects.ts'
import { readBooking, readClient } from '../../db/clientStore.ts'
import type { Application } from '../application.ts'
import { diaryBetween } from '../diaries.ts'

/** More are not said: who moves so many reads no more. */
const most = 20

/** What a person should know about the times that bookings get by some effects, which are not carried out yet. */
export function cautionsFor(
  application: Pick<Application, 'store' | 'settings'>,
  effects: readonly Effect[],
): readonly Caution[] {
  const { statements } = application.store
  const settings = application.settings.required()
  const put = effects.flatMap((effect) => (effect.kind === 'put booking' ? [effect.booking] : []))
  const placed = new Map(put.map((booking) => [booking.id, booking]))
  return [...placed.values()]
    .filter((booking) => isPlacedAnew(readBooking(statements, booking.id), booking))
    .slice(0, most)
    .flatMap((booking) => {
      const diary = diaryBetween(application, booking.startAt, booking.endAt, booking.id)
      const clientName = readClient(statements, booking.clientId)?.name ?? ''
      return cautionsOf(settings, booking, diary).map((sentence) => ({ clientName, sentence }))
    })
}
