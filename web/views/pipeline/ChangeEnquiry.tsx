import { MultiSelect } from '@mantine/core'
import { useState } from 'react'
import type { EnquiryView } from '#core/api/enquiryViews.ts'
import { fullName } from '#core/model/client.ts'
import { useAsk } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { DateField } from '../../parts/DateField.tsx'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { InCharge } from './InCharge.tsx'
import { draftOfWish, readWish } from './wishDraft.ts'
import { WishFields } from './WishFields.tsx'

/** Other facts of an enquiry, with what they do before they count. */
export function ChangeEnquiry({ view, onClose }: { view: EnquiryView; onClose: () => void }) {
  const { enquiry } = view
  const settings = useAsk('settings')
  const [draft, setDraft] = useState(() => draftOfWish(enquiry))
  const [personInChargeId, setPerson] = useState(enquiry.personInChargeId)
  const [contactIds, setContactIds] = useState(enquiry.contactIds)
  const [deadlineOn, setDeadline] = useState(enquiry.deadlineOn)
  if (settings.error) return <ErrorState problem={settings.error} onAgain={() => void settings.refetch()} />
  if (!settings.data) return <Waiting />
  const read = readWish(draft)
  const errors = 'errors' in read ? read.errors : {}
  const facts = 'wish' in read ? { ...read.wish, personInChargeId, deadlineOn, contactIds } : null
  // Nothing is asked about before something is another.
  const isOther =
    facts !== null &&
    (Object.keys(facts) as (keyof typeof facts)[]).some(
      (key) => JSON.stringify(facts[key]) !== JSON.stringify(enquiry[key]),
    )
  return (
    <div className={table.form}>
      <h2>Change the facts</h2>
      <WishFields
        settings={settings.data}
        draft={draft}
        errors={errors}
        set={(part) => setDraft({ ...draft, ...part })}
      />
      <InCharge placeholder="nobody: the business" value={personInChargeId} onChange={setPerson} />
      <MultiSelect
        label="Who hears of it"
        description="Nobody chosen: the primary contact."
        data={view.contacts.map((one) => ({
          value: one.id,
          label: fullName({ name: view.clientName }, one),
        }))}
        value={contactIds}
        onChange={setContactIds}
      />
      <DateField
        label="Deadline"
        placeholder="none"
        clearable
        value={deadlineOn}
        onChange={setDeadline}
        popoverProps={{ withinPortal: false }}
      />
      <ConsideredAct
        name="changeEnquiry"
        asked={
          isOther ? { parameters: { id: enquiry.id }, body: { revision: enquiry.revision, facts } } : null
        }
        word="Change it"
        takesFocus={false}
        onClose={onClose}
      />
    </div>
  )
}
