import { Button } from '@mantine/core'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import type { EnquiryView } from '#core/api/enquiryViews.ts'
import type { OfferedMove } from '#core/api/moveViews.ts'
import { realZones } from '#core/time/realZones.ts'
import { useAsk } from '../../app/queries.ts'
import { DayZeroLine } from '../../parts/DayZeroLine.tsx'
import { History } from '../../parts/History.tsx'
import { NotesOf } from '../../parts/NotesOf.tsx'
import { OfferedMoves, PressedReport, PressMove } from '../../parts/OnePress.tsx'
import { OrderedSends } from '../../parts/OrderedSends.tsx'
import { Signings } from '../../parts/Signings.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import booking from '../bookings/BookingPage.module.css'
import { MailOfClient } from '../cameIn/MailOfClient.tsx'
import { BookIt } from './BookIt.tsx'
import { ChangeEnquiry } from './ChangeEnquiry.tsx'
import { CameByForm } from './CameByForm.tsx'
import { Checklist } from './Checklist.tsx'
import { EnquiryFacts } from './EnquiryFacts.tsx'
import { EveningLetter } from './EveningLetter.tsx'
import { MoveTo, Said, type MoveSaid } from './MoveTo.tsx'
import styles from './pipeline.module.css'

/** The stages it came through and can go to, with since when it stands in its own. */
function Way({ view: { pipeline, enquiry } }: { view: EnquiryView }) {
  const since = enquiry.stageAt[enquiry.stage]
  return (
    <ol className={styles.way} aria-label="Stages">
      {pipeline.stages.map(({ name }) => (
        <li key={name} aria-current={name === enquiry.stage ? 'step' : undefined}>
          {name}
          {name === enquiry.stage && since !== undefined && (
            <>
              {' '}
              since <When at={since} />
            </>
          )}
        </li>
      ))}
    </ol>
  )
}

type Doing =
  | { readonly act: 'move'; readonly to: string }
  | { readonly act: 'press'; readonly move: OfferedMove }
  | { readonly act: 'book' | 'change' }

/** What can be done with it at this moment. */
function Acts({ view, onBegin }: { view: EnquiryView; onBegin: (doing: Doing) => void }) {
  const { enquiry, pipeline, bookingStatus } = view
  const canBook = bookingStatus === null || bookingStatus === 'cancelled'
  const others = pipeline.stages.filter(({ name }) => name !== enquiry.stage)
  return (
    <div className={table.form}>
      <div className={table.acts}>
        {canBook && <Button onClick={() => onBegin({ act: 'book' })}>Book it…</Button>}
        {others.map(({ name }) => (
          <Button key={name} variant="default" onClick={() => onBegin({ act: 'move', to: name })}>
            To “{name}”…
          </Button>
        ))}
        <Button variant="default" onClick={() => onBegin({ act: 'change' })}>
          Change facts…
        </Button>
      </div>
    </div>
  )
}

function Beside({ view }: { view: EnquiryView }) {
  const [doing, setDoing] = useState<Doing | null>(null)
  const [said, setSaid] = useState<MoveSaid | null>(null)
  const { enquiry, pipeline, clientName, history, moves, pressed } = view
  const close = () => setDoing(null)
  if (doing?.act === 'move') {
    return (
      <MoveTo
        pipeline={pipeline}
        enquiries={[{ ...enquiry, clientName }]}
        to={doing.to}
        onClose={close}
        onDone={(words) => {
          setSaid(words)
          close()
        }}
      />
    )
  }
  if (doing?.act === 'press') {
    return <PressMove move={doing.move} on={[enquiry]} onClose={close} onDone={close} />
  }
  if (doing?.act === 'book') return <BookIt view={view} onClose={close} />
  if (doing?.act === 'change') return <ChangeEnquiry view={view} onClose={close} />
  return (
    <>
      {said && <Said said={said} onClose={() => setSaid(null)} />}
      <h2 className={table.group}>The enquiry</h2>
      <Acts view={view} onBegin={setDoing} />
      <OfferedMoves moves={moves} onPress={(move) => setDoing({ act: 'press', move })} />
      <PressedReport pressed={pressed} />
      <EnquiryFacts view={view} />
      <CameByForm receipt={view.receipt} />
      <Checklist view={view} />
      <EveningLetter view={view} />
      <Signings signings={view.signings} />
      <NotesOf on="noteOnEnquiry" id={enquiry.id} clientId={enquiry.clientId} history={history} />
    </>
  )
}

function Page({ view }: { view: EnquiryView }) {
  const { enquiry, clientName, serviceName, pipeline } = view
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>
          <Link to={`/client/${enquiry.clientId}`}>{clientName}</Link> ·{' '}
          {enquiry.what || serviceName || 'enquiry'} <span className={booking.status}>{enquiry.stage}</span>
        </h1>
        <Link to={`/pipeline/${pipeline.id}`}>{pipeline.name}</Link>
      </div>
      <Way view={view} />
      <DayZeroLine
        day0At={view.day0At}
        madeAt={enquiry.receivedAt}
        madeWord="asked"
        isWholeDay
        sends={view.sends}
        zone={realZones.zone(view.placeZone)}
      />
      <div className={table.split}>
        <div className={table.sheet}>
          <h2 className={table.group}>Messages</h2>
          {view.sends.length === 0 ? (
            <EmptyState title="No messages.">
              <p>
                None of the <Link to="/sequences">sequences</Link> at work writes about it.
              </p>
            </EmptyState>
          ) : (
            <OrderedSends sends={view.sends} />
          )}
          <MailOfClient id={enquiry.clientId} since={enquiry.receivedAt} />
          <h2 className={table.group}>What happened</h2>
          <History lines={view.history} />
        </div>
        <aside className={`${table.sheet ?? ''} ${table.aside ?? ''}`} aria-label="The enquiry">
          <Beside view={view} />
        </aside>
      </div>
    </div>
  )
}

/** An enquiry: its line around day 0, its messages past and planned, its facts, and where it can go. */
export default function EnquiryPage() {
  const { id = '' } = useParams()
  const enquiry = useAsk('enquiry', { parameters: { id } })
  if (enquiry.error) return <ErrorState problem={enquiry.error} onAgain={() => void enquiry.refetch()} />
  return enquiry.data ? <Page key={id} view={enquiry.data} /> : <Waiting />
}
