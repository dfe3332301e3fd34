import { Button } from '@mantine/core'
import { useState } from 'react'
import type { IncomingView } from '#core/api/incomingEndpoints.ts'
import { ClientPicker } from '../../parts/ClientPicker.tsx'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import desk from '../desk/Desk.module.css'
import styles from './CameIn.module.css'

/** Whose a mail is that nobody could tell: one of those it may be of, or anybody. */
export function WhoseIsIt({ mail }: { mail: IncomingView }) {
  const [chosen, setChosen] = useState<string | null>(null)
  const { id, revision, candidates } = mail
  const name = candidates.find((one) => one.id === chosen)?.name
  return (
    <section className={styles.proposal} aria-label="Whose is it?">
      <p>
        <b>Whose is it?</b> What an answer would stop waits until that is said.
      </p>
      <div className={desk.acts}>
        {candidates.map((one) => (
          <Button
            key={one.id}
            variant="default"
            aria-pressed={one.id === chosen}
            onClick={() => setChosen(one.id)}
          >
            {one.name}
          </Button>
        ))}
      </div>
      <ClientPicker label="Client" placeholder="a name" value={chosen} onChange={setChosen} />
      {chosen !== null && (
        <ConsideredAct
          name="chooseIncomingClient"
          asked={{ parameters: { id }, body: { revision, clientId: chosen } }}
          word={name === undefined ? 'It is theirs' : `It is from ${name}`}
          takesFocus={false}
          onClose={() => setChosen(null)}
        />
      )}
    </section>
  )
}
