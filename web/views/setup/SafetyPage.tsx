import { Button, NumberInput } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import { EmptyState } from '../../parts/States.tsx'
import { SetUpPage } from '../../parts/SetUpPage.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { QuietMode } from './QuietMode.tsx'
import { SentMail } from './SentMail.tsx'
import styles from './setup.module.css'

/** How many messages may leave in a day before everything is held back. */
function Cap({ most, sentToday }: { most: number | null; sentToday: number }) {
  const [typed, setTyped] = useState<number | string>(most ?? '')
  const set = useTell('setDailyCap')
  const wanted = typed === '' ? null : Number(typed)
  return (
    <section className={table.sheet} aria-label="Most messages in a day" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Most messages in a day</h2>
      <SheetForm style={{ maxWidth: '44rem' }} onSubmit={() => set.mutate({ body: { most: wanted } })}>
        <p>
          A brake for the day something is set up wrongly: when more would go in a day than you expect,
          everything is held back and waits until you have looked and switch sending on again. It stands
          beside the allowance of the mail account, which only puts messages off.
        </p>
        <NumberInput
          label="At most"
          description={`Left empty: any number. Today ${sentToday} went.`}
          min={1}
          max={1_000_000}
          allowDecimal={false}
          value={typed}
          error={set.error ? fieldErrors(set.error)['most'] : undefined}
          onChange={setTyped}
        />
        <Problem of={set.error} />
        <div className={table.acts}>
          <Button type="submit" variant="default" disabled={wanted === most} loading={set.isPending}>
            {wanted === null ? 'Let any number go' : 'Keep this number'}
          </Button>
        </div>
      </SheetForm>
    </section>
  )
}

function Switch() {
  const { overview } = useBusiness()
  const { isOn, onTheirWay, capReachedAt } = overview.sending
  return (
    <section className={table.sheet} aria-label="Sending">
      <h2 className={table.group}>Sending</h2>
      <div className={styles.form}>
        <p>
          {isOn
            ? `Sending is on; ${onTheirWay} messages are planned. The switch stands above on every page.`
            : 'Sending is held back: nothing leaves. The switch stands above on every page.'}
        </p>
        {capReachedAt !== null && (
          <p className={styles.fault}>
            It was held back by itself on <When at={capReachedAt} />: more messages were due than may go in a
            day.
          </p>
        )}
      </div>
    </section>
  )
}

/** Everything that keeps messages from going: the switch, the brake, quiet mode; and what is told about the house. */
export default function SafetyPage() {
  const { isOwner } = useBusiness()
  const safety = useAsk('safety', {}, { enabled: isOwner })
  return (
    <SetUpPage title="Safety">
      <Switch />
      {isOwner && safety.data && (
        <>
          <Cap key={safety.data.most} most={safety.data.most} sentToday={safety.data.sentToday} />
          <QuietMode ownAddress={safety.data.ownAddress} />
          <SentMail />
        </>
      )}
      {!isOwner && <EmptyState title="The rest is the owner’s." />}
      <section className={table.sheet} aria-label="The house" style={{ marginTop: '1rem' }}>
        <h2 className={table.group}>The house</h2>
        <div className={styles.form}>
          <p>
            Vorfreude tells nobody anything about itself or its use. What the mail account takes in an hour, a
            day and a month stands with <Link to="/set-up/mail">how messages go out</Link>.
          </p>
        </div>
      </section>
    </SetUpPage>
  )
}
