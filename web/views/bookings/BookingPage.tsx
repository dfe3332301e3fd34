import { Fragment, useState } from 'react'
import { Link, useParams } from 'react-router'
import type { OfferedMove } from '#core/api/moveViews.ts'
import type { BookingView } from '#core/api/views.ts'
import { moneyIn } from '#core/letters/language.ts'
import { settlingEnd } from '#core/model/booking.ts'
import { fullName } from '#core/model/client.ts'
import { priceOf } from '#core/model/policy.ts'
import { realZones } from '#core/time/realZones.ts'
import { useAsk } from '../../app/queries.ts'
import { Consequences } from '../../parts/Consequences.tsx'
import { DayZeroLine } from '../../parts/DayZeroLine.tsx'
import { History } from '../../parts/History.tsx'
import { NotesOf } from '../../parts/NotesOf.tsx'
import { OfferedMoves, PressedReport, PressMove } from '../../parts/OnePress.tsx'
import { OrderedSends } from '../../parts/OrderedSends.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import { Signings } from '../../parts/Signings.tsx'
import { statusWords } from '../../parts/statusWords.ts'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { BookingActs } from './BookingActs.tsx'
import { ChangeFacts } from './ChangeFacts.tsx'
import styles from './BookingPage.module.css'
import { Payments } from './Payments.tsx'
import { Told } from './Told.tsx'
import { useConsidering, type Considering } from './useConsidering.ts'

/** What the client answered, what it costs, and what was said when it was cancelled. */
function Agreed({ view: { booking, service } }: { view: BookingView }) {
  const price = priceOf(service, booking)
  return (
    <>
      {booking.answers.map(({ question, answer }) => (
        <Fragment key={question}>
          <dt>{question}</dt>
          <dd>{answer}</dd>
        </Fragment>
      ))}
      {price !== null && (
        <>
          <dt>Price</dt>
          <dd>{moneyIn('en', price)}</dd>
        </>
      )}
      {booking.cancellation && (
        <>
          <dt>Cancelled</dt>
          <dd>
            by {booking.cancellation.by === 'client' ? 'the client' : 'the business'}
            {booking.cancellation.feeCents > 0 && `, fee ${moneyIn('en', booking.cancellation.feeCents)}`}
            {booking.cancellation.reason !== '' && (
              <>
                <br />
                <span className={table.quiet}>“{booking.cancellation.reason}”</span>
              </>
            )}
          </dd>
        </>
      )}
    </>
  )
}

/** Who takes part and who pays, where that is said. */
function People({ view: { booking, contacts, clientName } }: { view: BookingView }) {
  const { participantIds, payerId } = booking.people
  const nameOf = (id: string) => {
    const found = contacts.find((one) => one.id === id)
    return found ? fullName({ name: clientName }, found) : 'no contact any more'
  }
  return (
    <>
      {participantIds.length > 0 && (
        <>
          <dt>Takes part</dt>
          <dd>{participantIds.map(nameOf).join(', ')}</dd>
        </>
      )}
      {payerId !== null && (
        <>
          <dt>Pays</dt>
          <dd>{nameOf(payerId)}</dd>
        </>
      )}
    </>
  )
}

function Facts({ view }: { view: BookingView }) {
  const { booking, service, personInCharge, placeZone, seatsTaken } = view
  const settlesUntil = settlingEnd(booking)
  return (
    <dl className={styles.facts}>
      <dt>When</dt>
      <dd>
        <When at={booking.startAt} inZone={realZones.zone(placeZone)} />
        <br />
        <span className={table.quiet}>
          until <When at={booking.endAt} inZone={realZones.zone(placeZone)} />
        </span>
      </dd>
      <dt>Where</dt>
      <dd>{service.place}</dd>
      <dt>For</dt>
      <dd>
        {booking.partySize === 1 ? '1 person' : `${booking.partySize} people`}{' '}
        <span className={table.quiet}>
          ({seatsTaken} of {service.seats} seats taken)
        </span>
      </dd>
      <People view={view} />
      <dt>In charge</dt>
      <dd>{personInCharge?.name ?? 'nobody yet: the business'}</dd>
      <Agreed view={view} />
      <dt>Made</dt>
      <dd>
        <When at={booking.madeAt} />
        {view.enquiryId !== null && (
          <>
            {' '}
            of <Link to={`/enquiry/${view.enquiryId}`}>its enquiry</Link>
          </>
        )}
      </dd>
      {settlesUntil !== null && (
        <>
          <dt>Settling</dt>
          <dd>
            until <When at={settlesUntil} />
            <br />
            <span className={table.quiet}>What is left of quick changes is told then, not before.</span>
          </dd>
        </>
      )}
    </dl>
  )
}

/** The messages and the history; while an act is considered, what it would do. */
function Main({ view, considering }: { view: BookingView; considering: Considering }) {
  const { doing, considered } = considering
  if (doing !== null) {
    return (
      <div className={table.sheet}>
        <Consequences considered={considered} />
        <Told view={view} considering={considering} />
      </div>
    )
  }
  return (
    <div className={table.sheet}>
      <h2 className={table.group}>Messages</h2>
      {view.sends.length === 0 ? (
        <EmptyState title="No messages.">
          <p>They are planned when the booking is confirmed.</p>
        </EmptyState>
      ) : (
        <OrderedSends sends={view.sends} />
      )}
      <h2 className={table.group}>What happened</h2>
      <History lines={view.history} />
    </div>
  )
}

/** What stands beside the messages: the facts and what can be done, or something that is being done. */
function Beside({ view, considering }: { view: BookingView; considering: Considering }) {
  const { booking, moves, pressed, history } = view
  const [isChanging, setIsChanging] = useState(false)
  const [pressing, setPressing] = useState<OfferedMove | null>(null)
  if (isChanging) return <ChangeFacts view={view} onClose={() => setIsChanging(false)} />
  const leave = () => setPressing(null)
  if (pressing) return <PressMove move={pressing} on={[booking]} onClose={leave} onDone={leave} />
  const acts = (
    <BookingActs view={view} considering={considering} onChange={() => setIsChanging(true)}>
      <Facts view={view} />
    </BookingActs>
  )
  if (considering.doing !== null) return acts
  return (
    <>
      {acts}
      <OfferedMoves moves={moves} onPress={setPressing} />
      <PressedReport pressed={pressed} />
      <Payments view={view} />
      <Signings signings={view.signings} />
      <NotesOf on="noteOnBooking" id={booking.id} clientId={booking.clientId} history={history} />
    </>
  )
}

function Page({ view }: { view: BookingView }) {
  const { booking, clientName, service } = view
  const considering = useConsidering(view)
  const { doing, considered, newStartAt } = considering
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>
          <Link to={`/client/${booking.clientId}`}>{clientName}</Link> · {service.name}{' '}
          <span className={styles.status}>{statusWords(booking.status, booking.own.status)}</span>
        </h1>
      </div>
      <DayZeroLine
        day0At={booking.startAt}
        madeAt={booking.madeAt}
        madeWord="booked"
        sends={view.sends}
        zone={realZones.zone(view.placeZone)}
        considered={
          doing !== null && considered.lines !== null ? { lines: considered.lines, day0At: newStartAt } : null
        }
      />
      <div className={table.split}>
        <Main view={view} considering={considering} />
        <aside className={`${table.sheet ?? ''} ${table.aside ?? ''}`} aria-label="The booking">
          <h2 className={table.group}>The booking</h2>
          <Beside view={view} considering={considering} />
        </aside>
      </div>
    </div>
  )
}

/** A booking: its line around day 0, its messages past and planned, its facts and what can be done. */
export default function BookingPage() {
  const { id = '' } = useParams()
  const booking = useAsk('booking', { parameters: { id } })
  if (booking.error) return <ErrorState problem={booking.error} onAgain={() => void booking.refetch()} />
  return booking.data ? <Page key={id} view={booking.data} /> : <Waiting />
}
