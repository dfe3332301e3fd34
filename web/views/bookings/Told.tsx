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
  status: null,
}

/** What a booking means once an act is done; `given`: the status of the business's own that it gives. */
function afterwards(
  { booking, ownStatuses }: BookingView,
  doing: BookingDoing,
  given: string | null,
): string {
  const meaning =
    doing === 'status' ? ownStatuses.find(({ name }) => name === given)?.meaning : statusAfter[doing]
  return statusWords(meaning ?? booking.status, null)
}

/** What the client has in hand, and what will be so afterwards. */
export function Told({ view, considering }: { view: BookingView; considering: Considering }) {
  const { booking, placeZone } = view
  const { doing, newStartAt, ownStatus } = considering
  if (doing === null) return null
  // Clients are told what a status means; the business's own words for it are not for them.
  const before = statusWords(booking.status, null)
  const after = afterwards(view, doing, ownStatus)
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
          <td>{after === before ? before : <s>{before}</s>}</td>
          <td>{after}</td>
        </tr>
      </tbody>
    </table>
  )
}
