import type { SettingsView } from '#core/api/views.ts'
import { isOffered } from '#core/model/policy.ts'
import table from '../../parts/timetable.module.css'
import { Copied } from '../../parts/Copied.tsx'
import styles from './setup.module.css'

/** Where clients book by themselves, and how it gets onto the business's own web site. */
export function PublicPage({ settings }: { settings: SettingsView }) {
  const offered = settings.services.filter(isOffered)
  const url = `${settings.publicUrl}/book`
  return (
    <section className={table.sheet} aria-label="Booking page" style={{ marginBottom: '1rem' }}>
      <h2 className={table.group}>Booking page</h2>
      <div className={styles.form}>
        {offered.length === 0 ? (
          <p>Clients can book nothing by themselves yet: no service is offered on the public page.</p>
        ) : (
          <>
            <p>
              Clients book {offered.map(({ name }) => name).join(', ')} at{' '}
              <a href={url} target="_blank" rel="noreferrer">
                {url}
              </a>
              .
            </p>
            <Copied label="A link for your web site" text={`<a href="${url}">Book</a>`} />
            <Copied
              label="The page within a page of yours"
              text={`<iframe src="${url}" title="Book" width="100%" height="900" style="border:0"></iframe>`}
            />
          </>
        )}
      </div>
    </section>
  )
}
