import { serviceInput, type ServiceInput } from '#core/engine/commands/settingsCommands.ts'
import { standardOffer, type Departure, type Offer, type Question } from '#core/model/offer.ts'
import { orNull, readWeek, sayFault, typedWeek, weekFaults } from './typed.ts'

type Price = NonNullable<Offer['price']>

/** A service as its form holds it: texts where something is typed. */
export interface ServiceDraft {
  name: string
  place: string
  placeZone: string | null
  durationMinutes: number | string
  seats: number | string
  isActive: boolean
  isPublic: boolean
  forClients: string
  directions: string
  isShared: boolean
  bufferBeforeMinutes: number | string
  bufferAfterMinutes: number | string
  startsBy: 'hours' | 'departures'
  /** Hours of each weekday as they are typed, Monday first. */
  hours: string[]
  everyMinutes: number | string
  departures: Departure[]
  holidays: 'open' | 'closed'
  closedDates: string[]
  noticeHours: number | string
  horizonDays: number | string
  personIds: string[]
  confirms: Offer['confirms']
  price: number | string
  pricePer: Price['per']
  /** What is paid ahead: nothing, all at once, or a deposit and the rest. */
  paysBy: 'nothing' | 'whole' | 'deposit'
  depositPercent: number | string
  depositWithinDays: number | string
  balanceDaysBefore: number | string
  freeUntilHours: number | string
  feePercent: number | string
  changeUntilHours: number | string
  questions: QuestionDraft[]
  senderName: string
  senderReplyTo: string
}

export interface QuestionDraft {
  id: string
  kind: Question['kind']
  label: string
  isRequired: boolean
  /** One option a line. */
  options: string
}

const newService: ServiceInput = {
  name: '',
  place: '',
  placeZone: null,
  durationMinutes: 60,
  seats: 1,
  offer: { ...standardOffer, isShared: false },
  isActive: true,
}

const questionDraft = (question: Question): QuestionDraft => ({
  ...question,
  options: question.kind === 'choice' ? question.options.join('\n') : '',
})

const payingDraft = (paying: Offer['paying']) => ({
  paysBy: paying === null ? ('nothing' as const) : paying.deposit ? ('deposit' as const) : ('whole' as const),
  depositPercent: paying?.deposit?.percent ?? 30,
  depositWithinDays: paying?.deposit?.withinDays ?? 7,
  balanceDaysBefore: paying?.balanceDaysBefore ?? 14,
})

function payingOf({ paysBy, depositPercent, depositWithinDays, balanceDaysBefore }: ServiceDraft) {
  if (paysBy === 'nothing') return null
  const deposit = { percent: depositPercent, withinDays: depositWithinDays }
  return { deposit: paysBy === 'deposit' ? deposit : null, balanceDaysBefore }
}

/** What the form begins with; null: a new service. */
export function draftOfService(service: ServiceInput | null): ServiceDraft {
  const { offer, ...plain } = service ?? newService
  const { starts, price, paying, cancelling, questions, sender, ...rest } = offer
  const standard = standardOffer.starts.kind === 'hours' ? standardOffer.starts.hours.weekly : []
  const { holidays, closedDates } = starts.kind === 'hours' ? starts.hours : starts
  return {
    ...plain,
    ...rest,
    personIds: [...offer.personIds],
    startsBy: starts.kind,
    hours: typedWeek(starts.kind === 'hours' ? starts.hours.weekly : standard),
    everyMinutes: starts.kind === 'hours' ? starts.everyMinutes : 60,
    departures: starts.kind === 'departures' ? [...starts.departures] : [],
    holidays,
    closedDates: [...closedDates],
    price: price ? price.cents / 100 : '',
    pricePer: price?.per ?? 'person',
    ...payingDraft(paying),
    ...cancelling,
    questions: questions.map(questionDraft),
    senderName: sender.name ?? '',
    senderReplyTo: sender.replyTo ?? '',
  }
}

function startsOf({ startsBy, hours, everyMinutes, departures, holidays, closedDates }: ServiceDraft) {
  if (startsBy === 'departures') return { kind: 'departures', departures, holidays, closedDates }
  return { kind: 'hours', hours: { weekly: readWeek(hours), holidays, closedDates }, everyMinutes }
}

const questionOf = ({ id, kind, label, isRequired, options }: QuestionDraft) =>
  kind === 'choice'
    ? {
        id,
        kind,
        label,
        isRequired,
        options: options
          .split('\n')
          .map((one) => one.trim())
          .filter(Boolean),
      }
    : { id, kind, label, isRequired }

const payingField = ([part, deeper]: readonly string[]) => {
  if (part !== 'deposit') return part ?? 'paysBy'
  return deeper === 'percent' ? 'depositPercent' : 'depositWithinDays'
}

/** Where in the form a fault of the model stands. */
function fieldOf(path: readonly PropertyKey[]): string {
  const [first, ...rest] = path.map(String)
  const within = first === 'offer' ? rest : [first ?? '', ...rest]
  const [name = '', ...more] = within
  if (name === 'cancelling') return more[0] ?? name
  if (name === 'paying') return payingField(more)
  if (name === 'price') return 'price'
  if (name === 'sender') return more[0] === 'replyTo' ? 'senderReplyTo' : 'senderName'
  if (name !== 'starts')
    return [name, ...more.filter((part) => part !== 'options' || more.length < 3)].join('.')
  const [part = '', ...deeper] = more
  return part === 'hours' ? 'hours' : [part, ...deeper].join('.')
}

export type ReadService =
  | { readonly service: ServiceInput; readonly faults: null }
  | { readonly service: null; readonly faults: Readonly<Record<string, string>> }

/** The service a form means, or what is wrong with which of its fields. */
export function readServiceDraft(draft: ServiceDraft): ReadService {
  const { name, place, placeZone, durationMinutes, seats, isActive } = draft
  const typedHours = draft.startsBy === 'departures' ? [] : weekFaults('hours', draft.hours)
  const cents = draft.price === '' ? null : Math.round(Number(draft.price) * 100)
  const parsed = serviceInput.safeParse({
    ...{ name, place, placeZone, durationMinutes, seats, isActive },
    offer: {
      isPublic: draft.isPublic,
      forClients: draft.forClients,
      directions: draft.directions,
      isShared: draft.isShared,
      bufferBeforeMinutes: draft.bufferBeforeMinutes,
      bufferAfterMinutes: draft.bufferAfterMinutes,
      starts: startsOf(draft),
      noticeHours: draft.noticeHours,
      horizonDays: draft.horizonDays,
      personIds: draft.personIds,
      confirms: draft.confirms,
      price: cents === null ? null : { cents, per: draft.pricePer },
      paying: payingOf(draft),
      cancelling: { freeUntilHours: draft.freeUntilHours, feePercent: draft.feePercent },
      changeUntilHours: draft.changeUntilHours,
      questions: draft.questions.map(questionOf),
      sender: { name: orNull(draft.senderName), replyTo: orNull(draft.senderReplyTo) },
    },
  })
  if (parsed.success && typedHours.length === 0) return { service: parsed.data, faults: null }
  const issues = parsed.success ? [] : parsed.error.issues
  const faults = issues.map(({ path, message }): [string, string] => [fieldOf(path), sayFault(message)])
  return { service: null, faults: Object.fromEntries([...faults, ...typedHours]) }
}
