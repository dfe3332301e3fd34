import { yearlyDateWords } from './yearlyDate.ts'
import { Button } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import type { ReactNode } from 'react'
import { Link, Navigate, useNavigate, useParams, useSearchParams } from 'react-router'
import type { BookingLine, ClientView } from '#core/api/views.ts'
import { realZones } from '#core/time/realZones.ts'
import { fullName, type Client, type Contact } from '#core/model/client.ts'
import { useBusiness } from '../../app/business.ts'
import type { Answer, CallArguments, Of } from '../../app/api.ts'
import { useAsk, useParts } from '../../app/queries.ts'
import { History } from '../../parts/History.tsx'
import { More } from '../../parts/More.tsx'
import { OrderedSends } from '../../parts/OrderedSends.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import { statusWords } from '../../parts/statusWords.ts'
import table from '../../parts/timetable.module.css'
import { WriteNote } from '../../parts/WriteNote.tsx'
import { When } from '../../parts/When.tsx'
import booking from '../bookings/BookingPage.module.css'
import { Differences } from '../sequences/Differences.tsx'
import { EnquiriesOfClient } from '../pipeline/EnquiriesOfClient.tsx'
import { AddressTrouble, MailOfClient } from '../cameIn/MailOfClient.tsx'
import { ClientForm } from './ClientForm.tsx'
import { ClientSequences, HoldBack, Noticed } from './ClientSequences.tsx'
import { MergeLink, Merges, MergeWith } from './MergeWith.tsx'
import { SetTask, Tasks } from './Notes.tsx'

function ContactFacts({ client, contact }: { client: Client; contact: Contact }) {
  const { overview } = useBusiness()
  return (
    <>
      <dt>{contact.isPrimary ? 'Messages to' : 'Also'}</dt>
      <dd>
        {fullName(client, contact)}
        <br />
        {contact.email === null ? '✕ no e-mail address' : contact.email}
        {contact.email !== null && <AddressTrouble clientId={client.id} address={contact.email} />}
        {contact.phone !== '' && (
          <>
            <br />
            {contact.phone}
          </>
        )}
        {contact.email !== null && overview.hasPostOffice && (
          <>
            <br />
            <Link to={`/mailbox/${encodeURIComponent(contact.email)}`}>Open the made-up mailbox</Link>
          </>
        )}
      </dd>
    </>
  )
}

function Facts({ client }: { client: Client }) {
  return (
    <dl className={booking.facts}>
      {client.contacts.map((contact) => (
        <ContactFacts key={contact.id} client={client} contact={contact} />
      ))}
      {client.namedDates.map((date) => (
        <FactPair key={date.label} name={date.label} value={yearlyDateWords(date)} />
      ))}
      {client.zone !== null && <FactPair name="Zone" value={client.zone} />}
      <FactPair name="Language" value={client.language === 'en' ? 'English' : 'German'} />
      {client.tags.length > 0 && <FactPair name="Tags" value={client.tags.join(', ')} />}
      <FactPair
        name="Promotion"
        value={client.takesPromotional ? 'takes promotional mail' : 'no promotional mail'}
      />
    </dl>
  )
}

function FactPair({ name, value }: { name: string; value: string }) {
  return (
    <>
      <dt>{name}</dt>
      <dd>{value}</dd>
    </>
  )
}

function BookingRow({ line }: { line: BookingLine }) {
  return (
    <li>
      <Link
        className={`${table.row ?? ''} ${table.dated ?? ''}`}
        to={`/booking/${line.id}`}
        style={{ '--columns': '11rem minmax(0, 1fr) 4.5rem 7rem' }}
      >
        <span className={table.time}>
          <When at={line.startAt} inZone={realZones.zone(line.placeZone)} />
        </span>
        <span>{line.serviceName}</span>
        <span className={table.quiet}>for {line.partySize}</span>
        <span>{statusWords(line.status, line.ownStatus)}</span>
      </Link>
    </li>
  )
}

type ListName = 'bookingsOfClient' | 'sendsOfClient' | 'historyOfClient'

interface ListedProps<Name extends ListName> {
  readonly name: Name
  readonly id: string
  /** What stands there where there is nothing. */
  readonly empty: string
  readonly children: (lines: readonly Answer<Of<Name>>['lines'][number][]) => ReactNode
  /** What stands under all of it. */
  readonly below?: ReactNode
}

/** What there is of a client, the newest first, as far as it has been looked at. */
function Listed<Name extends ListName>({ name, id, empty, children, below }: ListedProps<Name>) {
  const parts = useParts(name, { parameters: { id }, query: { limit: '20' } } as CallArguments<Of<Name>>)
  const { lines, problem, again } = parts
  if (problem) return <ErrorState problem={problem} onAgain={again} />
  if (!lines) return <Waiting />
  if (lines.length === 0) return <EmptyState title={empty} />
  return (
    <>
      {children(lines)}
      <More of={parts} isByPressOnly />
      {below}
    </>
  )
}

function Main({ view }: { view: ClientView }) {
  const { id } = view.client
  return (
    <div className={table.sheet}>
      <h2 className={table.group}>Bookings</h2>
      <Listed name="bookingsOfClient" id={id} empty="No bookings.">
        {(lines) => (
          <ul className={table.list}>
            {lines.map((line) => (
              <BookingRow key={line.id} line={line} />
            ))}
          </ul>
        )}
      </Listed>
      <EnquiriesOfClient id={id} />
      <h2 className={table.group}>Sequences at work</h2>
      <ClientSequences view={view} />
      {view.tasks.length > 0 && (
        <>
          <h2 className={table.group}>To do</h2>
          <Tasks tasks={view.tasks} />
        </>
      )}
      <MailOfClient id={id} />
      <h2 className={table.group}>Messages</h2>
      <Listed
        name="sendsOfClient"
        id={id}
        empty="No messages."
        below={
          <p className={table.note}>
            <a href={`/api/clients/${id}/messages.mbox`} download>
              All messages that went, as a file for a mail program (mbox)
            </a>
          </p>
        }
      >
        {(lines) => <OrderedSends sends={lines} />}
      </Listed>
      <h2 className={table.group}>What happened</h2>
      <Listed name="historyOfClient" id={id} empty="Nothing yet.">
        {(lines) => <History lines={lines} />}
      </Listed>
    </div>
  )
}

/** Who the client is, or what is being changed about that. */
function Beside({ view, mode }: { view: ClientView; mode: string }) {
  const navigate = useNavigate()
  const [search, setSearch] = useSearchParams()
  const { client, variations, merges } = view
  const close = () => void navigate(`/client/${client.id}`)
  if (mode === 'change') return <ClientForm client={client} onClose={close} />
  if (mode === 'merge') {
    const choose = (other: string | null) =>
      setSearch(other === null ? {} : { with: other }, { replace: true })
    return <MergeWith client={client} otherId={search.get('with')} onChoose={choose} onClose={close} />
  }
  return (
    <>
      <h2 className={table.group}>The client</h2>
      <Facts client={client} />
      <HoldBack view={view} />
      <Noticed view={view} />
      <h2 className={table.group}>Note or task</h2>
      <WriteNote on="writeNote" id={client.id} clientId={client.id} />
      <SetTask clientId={client.id} />
      <h2 className={table.group}>What differs for this client</h2>
      <Differences scope={{ of: 'client', clientId: client.id }} variations={variations} />
      <Merges merges={merges} />
      <MergeLink id={client.id} />
    </>
  )
}

/** A client: everything that happened, who they are, and the way to change it. */
export default function ClientPage() {
  const { id = '', mode } = useParams()
  const navigate = useNavigate()
  const client = useAsk('client', { parameters: { id } })
  if (client.error) return <ErrorState problem={client.error} onAgain={() => void client.refetch()} />
  if (!client.data) return <Waiting />
  const view = client.data
  // Who was merged with another is found under the other's name.
  if (view.client.id !== id) return <Navigate to={`/client/${view.client.id}`} replace />
  const isChanging = mode === 'change'
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>
          {view.client.name}
          {!view.client.isActive && <span className={booking.status}>inactive</span>}
        </h1>
        <Button
          {...looking}
          variant="default"
          onClick={() => void navigate(`/ahead?view=why-not&client=${id}`)}
        >
          Why not?
        </Button>
        <Button variant="default" onClick={() => void navigate(`/bookings/new?client=${id}`)}>
          New booking
        </Button>
        <Button variant="default" onClick={() => void navigate(`/pipeline?open=new&client=${id}`)}>
          New enquiry
        </Button>
        {!isChanging && (
          <Button variant="default" onClick={() => void navigate(`/client/${id}/change`)}>
            Change
          </Button>
        )}
      </div>
      <div className={table.split}>
        <Main view={view} />
        <aside className={`${table.sheet ?? ''} ${table.aside ?? ''}`} aria-label="The client">
          <Beside view={view} mode={mode ?? ''} />
        </aside>
      </div>
    </div>
  )
}
