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

/** What the booking is called once an act is done; `given`: the status of the business's own that it gives. */
function afterwards(
  { booking, ownStatuses }: BookingView,
  doing: BookingDoing,
  given: string | null,
): string {
  const { status, own } = booking
  if (doing === 'status') {
    const meaning = ownStatuses.find(({ name }) => name === given)?.meaning
    return statusWords(meaning ?? status, given)
  }
  const next = statusAfter[doing]
  return next === null ? statusWords(status, own.status) : statusWords(next, null)
}

/** What the client has in hand, and what will be so afterwards. */
export function Told({ view, considering }: { view: BookingView; considering: Considering }) {
  const { booking, placeZone } = view
  const { doing, newStartAt, ownStatus } = considering
  if (doing === null) return null
  const { status: present, own } = booking
  const before = statusWords(present, own.status)
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
