import type { ComponentType, ReactNode } from 'react'
import { Link } from 'react-router'
import type { WaysOut } from '#core/api/mailAccountEndpoints.ts'
import type { BeginningStep } from '#core/insight/beginning.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { beginningPath } from '../../parts/beginningSteps.ts'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { BusinessEditor } from '../setup/BusinessPage.tsx'
import { AccountOrWhyNot } from '../setup/MailAccountPage.tsx'
import { PublicAddress } from '../setup/PublicAddress.tsx'
import { ServiceEditor } from '../setup/ServicePage.tsx'
import form from '../setup/setup.module.css'
import { FirstSequence } from './FirstSequence.tsx'
import { Rehearsal } from './Rehearsal.tsx'

interface ContentProps {
  /** Goes to the page after it. */
  readonly onDone: () => void
}

function Hours({ onDone }: ContentProps) {
  const { data, error, refetch } = useAsk('businessSettings')
  if (error) return <ErrorState problem={error} onAgain={() => void refetch()} />
  if (!data) return <Waiting />
  return <BusinessEditor settings={data} onBegun={onDone} />
}

function FirstService({ onDone }: ContentProps) {
  const { data, error, refetch } = useAsk('settings')
  if (error) return <ErrorState problem={error} onAgain={() => void refetch()} />
  if (!data) return <Waiting />
  const services = data.services.filter(({ isActive }) => isActive)
  if (services.length === 0) return <ServiceEditor service={null} settings={data} onDone={onDone} />
  return (
    <section className={table.sheet} aria-label="What people can book">
      <h2 className={table.group}>What people can book</h2>
      <div className={form.form}>
        {services.map(({ id, name, durationMinutes }) => (
          <p key={id}>
            <Link to={`/set-up/service/${id}`}>{name}</Link>{' '}
            <span className={table.quiet}>{durationMinutes} minutes</span>
          </p>
        ))}
        <p>
          Hours, buffers, prices and questions are set on the page of each.{' '}
          <Link to="/set-up/service/new">Another service</Link>
        </p>
      </div>
    </section>
  )
}

/** With how messages go out, once that is known. */
function WithWays({ children }: { children: (ways: WaysOut) => ReactNode }) {
  const { data, error, refetch } = useAsk('waysOut')
  if (error) return <ErrorState problem={error} onAgain={() => void refetch()} />
  return data ? children(data) : <Waiting />
}

const Account = () => <WithWays>{(ways) => <AccountOrWhyNot ways={ways} />}</WithWays>
const Address = () => <WithWays>{(ways) => <PublicAddress ways={ways} />}</WithWays>

function SwitchOn({ onDone }: ContentProps) {
  const { overview } = useBusiness()
  const { data: ways } = useAsk('waysOut')
  if (!ways) return <Waiting />
  const { obstacle, way } = ways
  return (
    <section className={table.sheet} aria-label="Sending">
      <h2 className={table.group}>Sending</h2>
      <div className={form.form}>
        {way === 'post office' && (
          <p>
            Messages go to the built-in post office: whatever the switch says, nobody outside gets them before
            there is <Link to={beginningPath('mail account')}>a mail account</Link>.
          </p>
        )}
        {overview.sending.isOn ? (
          <p>
            ● Sending is on. What is planned stands under <Link to="/ahead">Ahead</Link>; the switch is at the
            top of every page.
          </p>
        ) : (
          <>
            <p>
              From now on messages reach clients, each at its time; those that wait for a look stand on the
              Desk first. What is planned stands under <Link to="/ahead">Ahead</Link>.
            </p>
            {obstacle === null ? (
              <ConsideredAct
                name="setSending"
                asked={{ body: { isOn: true } }}
                word="Switch sending on"
                leave="Not yet"
                takesFocus={false}
                onClose={onDone}
                // The page says that it is on; whoever has gone on meanwhile is not called back.
                onDone={() => undefined}
              />
            ) : (
              <p className={form.fault}>{obstacle}</p>
            )}
          </>
        )}
      </div>
    </section>
  )
}

/** What stands on the page of each of the first steps. */
export const stepContents: Readonly<Record<BeginningStep, ComponentType<ContentProps>>> = {
  business: Hours,
  service: FirstService,
  'mail account': Account,
  'public address': Address,
  sequence: FirstSequence,
  rehearsal: Rehearsal,
  sending: SwitchOn,
}
