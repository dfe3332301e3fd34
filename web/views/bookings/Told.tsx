import type { BookingView } from '#core/api/views.ts'
import { realZones } from '#core/time/realZones.ts'
import { statusWords } from '../../parts/statusWords.ts'
import { When } from '../../parts/When.tsx'
import styles from './BookingPage.module.css'
import type { BookingDoing, Considering } from './useConsidering.ts'

const statusAfter: Readonly<Record<BookingDoing, BookingView['booking']['status'] | null>> = {
  move: null,
  cancel: 'cancelled',
  miss: 'missed',
  complete: 'completed',
  settle: null,
  confirm: 'confirmed',
}

/** What the client has in hand, and what will be so afterwards. */
export function Told({ view, considering }: { view: BookingView; considering: Considering }) {
  const { booking, placeZone } = view
  const { doing, newStartAt } = considering
  if (doing === null) return null
  const after = statusAfter[doing]
  const toldAt = booking.told.startAt
  const startAt = newStartAt ?? booking.startAt
  return (
    <table className={styles.told}>
      <caption>What {view.clientName} knows</caption>
      <thead>
        <tr>
          <td />
          <th scope="col">until now</th>
          <th scope="col">afterwards</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <th scope="row">when</th>
          <td>
            {toldAt === startAt ? (
              <When at={toldAt} inZone={realZones.zone(placeZone)} />
            ) : (
              <s>
                <When at={toldAt} inZone={realZones.zone(placeZone)} />
              </s>
            )}
          </td>
          <td>
            <When at={startAt} inZone={realZones.zone(placeZone)} />
          </td>
        </tr>
        <tr>
          <th scope="row">status</th>
          <td>{after === null ? statusWords[booking.status] : <s>{statusWords[booking.status]}</s>}</td>
          <td>{statusWords[after ?? booking.status]}</td>
        </tr>
      </tbody>
    </table>
  )
}
