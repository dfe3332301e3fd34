import { Button } from '@mantine/core'
import { Link } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { durationIn } from '#core/letters/language.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import { BeginningList } from '../../parts/BeginningList.tsx'
import table from '../../parts/timetable.module.css'
import { Differences } from '../sequences/Differences.tsx'
import { Backups } from './Backups.tsx'
import { EverythingOut } from './EverythingOut.tsx'
import { Calendars } from './Calendars.tsx'
import { Documents } from './Documents.tsx'
import { Forms } from './Forms.tsx'
import { OnePressMoves } from './OnePressMoves.tsx'
import { Pipelines } from './Pipelines.tsx'
import { MailAccount } from './MailAccount.tsx'
import { NoteWishes } from './NoteWishes.tsx'
import { PublicPage } from './PublicPage.tsx'
import { PutAway } from './PutAway.tsx'
import { SettingsProgress } from './SettingsProgress.tsx'
import { SigningIn } from './SigningIn.tsx'
import { Statuses } from './Statuses.tsx'
import { Team } from './Team.tsx'
import { SourcesKept } from './SourcesKept.tsx'

type Service = SettingsView['services'][number]

function Facts({ service }: { service: Service }) {
  const { id, place, durationMinutes, seats, zone, placeZone, offer } = service
  return (
    <p style={{ margin: 0, padding: '0.5rem 1rem 0' }} className={table.quiet}>
      {[
        place,
        durationIn('en', durationMinutes),
        `${seats} ${seats === 1 ? 'seat' : 'seats'}`,
        placeZone !== null ? `on the clock of ${zone}` : '',
        offer.isPublic ? 'clients can book it' : 'booked by you alone',
      ]
        .filter(Boolean)
        .join(' · ')}{' '}
      ·{' '}
      <Link to={`/set-up/service/${id}`} aria-label={`Edit ${service.name}`}>
        Edit
      </Link>
    </p>
  )
}

/** The services, and what differs for each in the steps of sequences. */
export default function Services() {
  const settings = useAsk('settings')
  const { isOwner, session } = useBusiness()
  if (settings.error) return <ErrorState problem={settings.error} onAgain={() => void settings.refetch()} />
  if (!settings.data) return <Waiting />
  const { services, variations } = settings.data
  const active = services.filter(({ isActive }) => isActive)
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>Set-up</h1>
        <Link to="/set-up/business">The business and its hours</Link>
        {isOwner && !session.isDemo && <Link to="/begin">First steps</Link>}
        <Link to="/set-up/safety">Safety</Link>
        <Link to="/set-up/programs">Other programs</Link>
        {isOwner && <Link to="/set-up/acts">Record of acts</Link>}
      </div>
      <SettingsProgress />
      <BeginningList />
      <MailAccount />
      <NoteWishes />
      <SigningIn />
      <SourcesKept />
      <Backups />
      <PublicPage settings={settings.data} />
      <Calendars />
      <EverythingOut />
      <div className={table.head}>
        <h2>Services</h2>
        <Button component={Link} to="/set-up/service/new">
          New service
        </Button>
      </div>
      <div className={table.sheet}>
        {active.length === 0 && <EmptyState title="There are no services yet." />}
        {active.map((service) => (
          <section key={service.id} aria-label={service.name}>
            <h2 className={table.group}>{service.name}</h2>
            <Facts service={service} />
            <Differences
              scope={{ of: 'service', serviceId: service.id }}
              variations={variations.filter(
                ({ scope }) => scope.of === 'service' && scope.serviceId === service.id,
              )}
            />
          </section>
        ))}
      </div>
      <PutAway label="Archived" kind="service" items={services} />
      <Team people={settings.data.people} />
      <Pipelines pipelines={settings.data.pipelines} />
      <Forms {...settings.data} />
      <Documents documents={settings.data.documents} />
      <OnePressMoves moves={settings.data.onePressMoves} />
      <Statuses ownStatuses={settings.data.ownStatuses} services={services} />
    </div>
  )
}
