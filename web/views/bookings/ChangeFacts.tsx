import { MultiSelect, NumberInput, Select, Textarea } from '@mantine/core'
import { useState } from 'react'
import type { BookingView } from '#core/api/views.ts'
import type { Booking, GivenAnswer } from '#core/model/booking.ts'
import { moneyIn } from '#core/letters/language.ts'
import { priceOf } from '#core/model/policy.ts'
import { fullName } from '#core/model/client.ts'
import { useAsk } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import table from '../../parts/timetable.module.css'

/** What was answered, and what the service asks beside that. */
function answersOf({ booking, service }: BookingView): readonly GivenAnswer[] {
  const given = booking.answers.map(({ question }) => question)
  const further = service.offer.questions.filter(({ label }) => !given.includes(label))
  return [...booking.answers, ...further.map(({ label }) => ({ question: label, answer: '' }))]
}

type Named = Pick<Booking, 'personInChargeId' | 'people'>

interface WhoProps {
  readonly view: BookingView
  readonly who: Named
  readonly onChange: (who: Named) => void
}

/** Who takes part, who pays and who is in charge. */
function Who({ view, who, onChange }: WhoProps) {
  const { booking, contacts } = view
  const { personInChargeId, people } = who
  const settings = useAsk('settings')
  const named = contacts.map((one) => ({
    value: one.id,
    label: fullName({ name: one.email ?? view.clientName }, one),
  }))
  const team = (settings.data?.people ?? []).filter(
    ({ id, isActive }) => isActive || id === booking.personInChargeId,
  )
  return (
    <>
      <MultiSelect
        label="Who takes part"
        description="Contacts of the client. Nobody named: the primary one."
        data={named}
        value={[...people.participantIds]}
        onChange={(participantIds) => onChange({ ...who, people: { ...people, participantIds } })}
      />
      <Select
        label="Who pays"
        placeholder="the primary contact"
        clearable
        data={named}
        value={people.payerId}
        onChange={(payerId) => onChange({ ...who, people: { ...people, payerId } })}
      />
      <Select
        label="In charge"
        placeholder="nobody yet: the business"
        clearable
        data={team.map(({ id, name }) => ({ value: id, label: name }))}
        value={personInChargeId}
        onChange={(id) => onChange({ ...who, personInChargeId: id })}
      />
    </>
  )
}

/** How many it is for and what it costs, as they are typed. */
interface Much {
  readonly partySize: number | string
  /** In euros; empty: what its service costs. */
  readonly price: number | string
}

interface HowMuchProps {
  readonly view: BookingView
  readonly much: Much
  readonly onChange: (much: Much) => void
}

function HowMuch({ view: { booking, service }, much, onChange }: HowMuchProps) {
  const usual = priceOf(service, { ...booking, partySize: Number(much.partySize), priceCents: null })
  return (
    <>
      <NumberInput
        label="For how many people"
        min={1}
        allowDecimal={false}
        value={much.partySize}
        onChange={(partySize) => onChange({ ...much, partySize })}
      />
      <NumberInput
        label="Price agreed for this booking, in €"
        description="Empty: what its service costs."
        placeholder={usual === null ? 'none' : moneyIn('en', usual)}
        min={0}
        decimalScale={2}
        value={much.price}
        onChange={(price) => onChange({ ...much, price })}
      />
    </>
  )
}

/** Other facts of a booking, with what they do before they count. */
export function ChangeFacts({ view, onClose }: { view: BookingView; onClose: () => void }) {
  const { booking } = view
  const [{ partySize, price }, setMuch] = useState<Much>({
    partySize: booking.partySize,
    price: booking.priceCents === null ? '' : booking.priceCents / 100,
  })
  const { personInChargeId, people } = booking
  const [who, setWho] = useState<Named>({ personInChargeId, people })
  const [answers, setAnswers] = useState(answersOf(view))
  const facts = {
    partySize: Number(partySize),
    personInChargeId: who.personInChargeId,
    priceCents: price === '' ? null : Math.round(Number(price) * 100),
    people: { ...who.people, participantIds: [...who.people.participantIds] },
    answers: answers.filter(({ answer }) => answer.trim() !== ''),
  }
  const isWhole = typeof partySize === 'number'
  const { people: named, answers: given } = booking
  const present = {
    partySize: booking.partySize,
    personInChargeId,
    priceCents: booking.priceCents,
    people: { ...named, participantIds: [...named.participantIds] },
    answers: given,
  }
  // Nothing is asked about before something is another.
  const isOther = JSON.stringify(facts) !== JSON.stringify(present)
  const asked = { parameters: { id: booking.id }, body: { revision: booking.revision, facts } }
  return (
    <div className={table.form}>
      <h3>Change the facts</h3>
      <HowMuch view={view} much={{ partySize, price }} onChange={setMuch} />
      <Who view={view} who={who} onChange={setWho} />
      {answers.map(({ question, answer }, index) => (
        <Textarea
          key={question}
          label={question}
          autosize
          minRows={1}
          value={answer}
          onChange={(event) =>
            setAnswers(answers.with(index, { question, answer: event.currentTarget.value }))
          }
        />
      ))}
      <ConsideredAct
        name="changeBooking"
        asked={isWhole && isOther ? asked : null}
        word="Change it"
        takesFocus={false}
        onClose={onClose}
      />
    </div>
  )
}
