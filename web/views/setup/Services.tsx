import type { SettingsView } from '#core/api/views.ts'
import { useAsk } from '../../app/queries.ts'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { Differences } from '../sequences/Differences.tsx'
import { NoteWishes } from './NoteWishes.tsx'
import { SigningIn } from './SigningIn.tsx'
import { SourcesKept } from './SourcesKept.tsx'

type Service = SettingsView['services'][number]

function hours(minutes: number): string {
  const whole = Math.floor(minutes / 60)
  const rest = minutes % 60
  return [whole > 0 ? `${whole} h` : '', rest > 0 ? `${rest} min` : ''].filter(Boolean).join(' ')
}

function Facts({ service }: { service: Service }) {
  const { place, durationMinutes, seats, zone, placeZone } = service
  return (
    <p style={{ margin: 0, padding: '0.5rem 1rem 0' }} className={table.quiet}>
      {place} · {hours(durationMinutes)} · {seats} seats{placeZone !== null && ` · on the clock of ${zone}`}
    </p>
  )
}

/** The services, and what differs for each in the steps of sequences. */
export default function Services() {
  const settings = useAsk('settings')
  if (settings.error) return <ErrorState problem={settings.error} onAgain={() => void settings.refetch()} />
  if (!settings.data) return <Waiting />
  const { services, variations } = settings.data
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>Set-up</h1>
      </div>
      <NoteWishes />
      <SigningIn />
      <SourcesKept />
      <div className={table.sheet}>
        {services.length === 0 && <EmptyState title="There are no services yet." />}
        {services.map((service) => (
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
    </div>
  )
}
