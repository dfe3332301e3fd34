import { Button, Checkbox } from '@mantine/core'
import { useState } from 'react'
import type { EnquiryView } from '#core/api/enquiryViews.ts'
import { useAsk } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { withPictures } from '../../parts/withPictures.ts'
import { When } from '../../parts/When.tsx'
import styles from './pipeline.module.css'

/** The next evening letter as it would go at present. */
function Preview({ sendId }: { sendId: string }) {
  const preview = useAsk('sendPreview', { parameters: { id: sendId } })
  if (preview.error) return <Problem of={preview.error} />
  if (!preview.data) return null
  const { subject, html, text, problem } = preview.data
  return (
    <>
      <p>
        <b>{subject}</b>
      </p>
      {problem !== null && <p>✕ {problem}</p>}
      {html === null ? (
        <p style={{ whiteSpace: 'pre-line' }}>{text}</p>
      ) : (
        <iframe
          title="The evening letter as the client will see it"
          className={styles.letter}
          sandbox="allow-same-origin"
          srcDoc={withPictures(html)}
        />
      )}
    </>
  )
}

/** Why no letter would go in the evening as things stand. */
function whyNone({ enquiry, hasEveningStep }: EnquiryView): string {
  if (!hasEveningStep) {
    return 'No sequence at work for it sends an evening letter: one starts with a step “in the evening, what was ticked”.'
  }
  return enquiry.evening === null
    ? 'Off: what is ticked is not told.'
    : 'Nothing is ticked that the client has not been told.'
}

/** Evening letters on or off for one enquiry, with what that does. */
function Switch({ view, onClose }: { view: EnquiryView; onClose: () => void }) {
  const { id, evening, ticks } = view.enquiry
  const [tellsEarlier, setTellsEarlier] = useState(false)
  const isOn = evening === null
  const earlier = ticks.filter(
    ({ at, sentence, toldAt }) => at !== null && sentence !== null && toldAt === null,
  )
  return (
    <>
      {isOn && earlier.length > 0 && (
        <Checkbox
          label={`Tell what is ticked already, too (${earlier.length === 1 ? '1 line' : `${earlier.length} lines`})`}
          checked={tellsEarlier}
          onChange={(event) => setTellsEarlier(event.currentTarget.checked)}
        />
      )}
      <ConsideredAct
        name="setEvening"
        asked={{ parameters: { id }, body: { isOn, tellsEarlier } }}
        word={isOn ? 'Switch it on' : 'Switch it off'}
        onClose={onClose}
      />
    </>
  )
}

/** What the client is told in the evening of what was ticked, before it goes. */
export function EveningLetter({ view }: { view: EnquiryView }) {
  const { enquiry, eveningSendId, sends } = view
  const [isAsking, setAsking] = useState(false)
  const send = sends.find(({ id }) => id === eveningSendId)
  return (
    <section aria-label="Evening letter">
      <h2 className={table.group}>Evening letter</h2>
      <div className={table.form}>
        {send ? (
          <p>
            Goes <When at={send.shownAt} /> to {send.recipientName}.
          </p>
        ) : (
          <p className={table.quiet}>{whyNone(view)}</p>
        )}
        {eveningSendId !== null && <Preview sendId={eveningSendId} />}
        {isAsking ? (
          <Switch view={view} onClose={() => setAsking(false)} />
        ) : (
          <div className={table.acts}>
            <Button variant="default" size="compact-md" onClick={() => setAsking(true)}>
              {enquiry.evening === null ? 'Switch it on…' : 'Switch it off…'}
            </Button>
          </div>
        )}
      </div>
    </section>
  )
}
