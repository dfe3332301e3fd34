import { useEffect, useMemo, type ReactNode } from 'react'
import { NavLink, useLocation } from 'react-router'
import type { Overview, SessionView } from '#core/api/views.ts'
import { ErrorState, Waiting } from '../parts/States.tsx'
import { TimeRibbon } from '../parts/TimeRibbon.tsx'
import { BusinessProvider } from './business.ts'
import { ClockChip } from './ClockChip.tsx'
import styles from './Frame.module.css'
import { Find } from './Find.tsx'
import { Keys } from './Keys.tsx'
import { PersonMenu } from './PersonMenu.tsx'
import { useAsk, useLiveChanges } from './queries.ts'
import { sections } from './sections.ts'
import { SendingNotice, SendingProvider, SendingSwitch } from './Sending.tsx'

/** Pages that belong to a section although their address differs. */
const belongsTo: Readonly<Record<string, RegExp>> = {
  '/bookings': /^\/booking\//,
  '/clients': /^\/(client|mailbox)\//,
  '/letters': /^\/letter\//,
  '/sequences': /^\/sequence\//,
  '/set-up': /^\/(set-up\/|begin)/,
}

function Sections({ needs }: { needs: Overview['needs'] }) {
  const { pathname } = useLocation()
  const total = needs.decide + needs.trouble + needs.toDo
  const words = `${needs.decide} to decide, ${needs.trouble} in trouble, ${needs.toDo} to do`
  const isWithin = (to: string) => belongsTo[to]?.test(pathname) ?? false
  return (
    <nav className={styles.sections} aria-label="Sections">
      {sections.map(({ to, word }) => (
        <NavLink key={to} to={to} className={({ isActive }) => (isActive || isWithin(to) ? styles.here : '')}>
          {word}
          {to === '/desk' && total > 0 && (
            <span className={styles.count} title={words}>
              {total}
              <span className={styles.unseen}> need a person: {words}</span>
            </span>
          )}
        </NavLink>
      ))}
    </nav>
  )
}

/** Leaves out the buttons of acts that the server refuses to who only looks; also those in dialogs. */
function useOnlookersLooks(isOnlooker: boolean) {
  useEffect(() => {
    document.body.toggleAttribute('data-looks-only', isOnlooker)
    return () => document.body.removeAttribute('data-looks-only')
  }, [isOnlooker])
}

/** What is on every page: sections, ribbon, clock and switch. */
export function Frame({ session, children }: { session: SessionView; children: ReactNode }) {
  useLiveChanges(true)
  const overview = useAsk('overview')
  const business = useMemo(
    () => (overview.data ? { overview: overview.data, session } : null),
    [overview.data, session],
  )
  const isOnlooker = session.person?.role === 'onlooker'
  useOnlookersLooks(isOnlooker)
  if (overview.error) return <ErrorState problem={overview.error} onAgain={() => void overview.refetch()} />
  if (!business) return <Waiting />
  return (
    <BusinessProvider value={business}>
      <SendingProvider>
        <a className={styles.skip} href="#content">
          To the content
        </a>
        <header className={styles.bar}>
          <span className={styles.name}>
            <svg width="32" height="20" viewBox="0 0 32 20" aria-hidden>
              <path d="M1 12h30" stroke="currentColor" strokeWidth="1.6" />
              <path d="M5 12V7M10 12V4M23 12V8M28 12V9" stroke="#9fb0e8" strokeWidth="1.6" />
              <circle cx="16.5" cy="12" r="4.6" fill="#e0980f" />
            </svg>
            Vorfreude
          </span>
          <Sections needs={business.overview.needs} />
          <div className={styles.right}>
            <Find />
            <ClockChip />
            <SendingSwitch />
            <PersonMenu />
          </div>
        </header>
        <Keys />
        <TimeRibbon />
        <SendingNotice />
        {isOnlooker && (
          <section className={styles.looks} aria-label="What you may do">
            You look only: everything is here to be read, and nothing can be changed by you.
          </section>
        )}
        <main id="content" className={styles.content} tabIndex={-1}>
          {children}
        </main>
      </SendingProvider>
    </BusinessProvider>
  )
}
