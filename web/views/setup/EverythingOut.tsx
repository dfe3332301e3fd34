import { useBusiness } from '../../app/business.ts'
import table from '../../parts/timetable.module.css'
import styles from './setup.module.css'

const files = [
  [
    'business.json',
    'The whole business',
    'a fresh Vorfreude reads it back: ./run restore business.json --data NEW',
  ],
  ['clients.csv', 'Clients', 'a table'],
  ['clients.vcf', 'Clients', 'cards for an address book (vCard)'],
  ['bookings.csv', 'Bookings', 'a table; as a calendar see above'],
  ['enquiries.csv', 'Enquiries', 'a table'],
  ['invoices.csv', 'Invoices', 'a table'],
  ['messages.csv', 'Messages', 'a table: what went, what is to come, and why'],
  ['messages.mbox', 'E-mails as they went', 'for a mail program (mbox)'],
] as const

/** Everything the business has, in open formats; the owner's. */
export function EverythingOut() {
  const { isOwner } = useBusiness()
  if (!isOwner) return null
  return (
    <section className={table.sheet} aria-label="Everything out" style={{ marginBottom: '1rem' }}>
      <h2 className={table.group}>Everything out</h2>
      <div className={styles.form}>
        <p>All that is here is yours, in open formats. Passwords and keys are in none of these files.</p>
        <ul className={styles.files}>
          {files.map(([name, what, words]) => (
            <li key={name}>
              <a href={`/api/out/${name}`} download aria-label={`${what}: ${name}`}>
                {name}
              </a>{' '}
              <span className={table.quiet}>
                {what}, {words}
              </span>
            </li>
          ))}
        </ul>
      </div>
    </section>
  )
}
