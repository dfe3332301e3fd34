import { conditionWords, type ConditionNames } from '../conditions/words.ts'
import type { StartRule, StopRule } from '../model/sequence.ts'
import { isStartEvent, startTraits } from '../model/startEvent.ts'
import { spanWords } from './span.ts'

interface Words {
  /** In a rule: `a booking is made`. */
  readonly happens: string
  /** As the reason why a run ended. */
  readonly happened: string
}

const words: Readonly<Record<StopRule['on'], Words>> = {
  'booking made or confirmed': {
    happens: 'a booking is made or confirmed',
    happened: 'The booking was made or confirmed.',
  },
  'booking requested': { happens: 'a booking is requested', happened: 'The booking was requested.' },
  'booking confirmed': { happens: 'a booking is confirmed', happened: 'The booking was confirmed.' },
  'booking moved': { happens: 'a booking is moved', happened: 'The booking was moved.' },
  'booking cancelled': { happens: 'a booking is cancelled', happened: 'The booking was cancelled.' },
  'booking completed': { happens: 'a booking has taken place', happened: 'The booking has taken place.' },
  'booking missed': { happens: 'a booking is missed', happened: 'The booking was missed.' },
  'booking status entered': {
    happens: 'a booking gets a status of yours',
    happened: 'The booking got another status.',
  },
  'enquiry received': { happens: 'an enquiry comes', happened: 'The enquiry came.' },
  'enquiry stage entered': { happens: 'an enquiry enters a stage', happened: 'The enquiry entered a stage.' },
  'booking move pressed': {
    happens: 'a move is pressed on a booking',
    happened: 'A move was pressed on the booking.',
  },
  'enquiry move pressed': {
    happens: 'a move is pressed on an enquiry',
    happened: 'A move was pressed on the enquiry.',
  },
  'invoice issued': { happens: 'an invoice is issued', happened: 'The invoice was issued.' },
  'invoice paid': { happens: 'an invoice is paid', happened: 'The invoice was paid.' },
  'tag added': { happens: 'a tag is added', happened: 'A tag was added.' },
  'list joined': { happens: 'a list is joined', happened: 'A list was joined.' },
  'form received': { happens: 'a form is received', happened: 'The form was received.' },
  signed: { happens: 'a document is signed', happened: 'A document was signed.' },
  'date known': { happens: 'a yearly date is known', happened: 'A yearly date became known.' },
  answered: { happens: 'the client answers', happened: 'The client answered.' },
  booked: { happens: 'the client books something else', happened: 'The client booked something else.' },
  'opted out': { happens: 'the client opts out', happened: 'The client opted out.' },
  'event over': { happens: 'the event is over', happened: 'The event is over.' },
}

/** What an event is about by name, such as `tag`; null: there is only one kind. */
export function nameAsked(on: StopRule['on']): string | null {
  return isStartEvent(on) ? startTraits[on].named : null
}

/** What happens, for a start or a stop rule: `a tag is added: “VIP”`. */
export function eventWords({ on, name }: Pick<StopRule, 'on' | 'name'>): string {
  const { happens } = words[on]
  return name === null ? happens : `${happens}: “${name}”`
}

/** What ends and what holds a sequence, in one sentence's end. */
export function stopRulesWords(stops: readonly StopRule[]): string {
  const all = (does: StopRule['does']) =>
    stops
      .filter((one) => one.does === does)
      .map(eventWords)
      .join(', or ')
  const ends = all('ends') || 'nothing more is left to do'
  const holds = all('holds')
  return holds === '' ? ends : `${ends}; each message asks first once ${holds}`
}

/** Why a run ended by a stop rule: `A tag was added: “VIP”.` */
export function stoppedWords(on: StopRule['on'], name: string): string {
  const { happened } = words[on]
  return name === '' ? happened : `${happened.slice(0, -1)}: “${name}”.`
}

/** `a booking is confirmed for Sunrise flight, only if …`. */
export function startRuleWords(start: StartRule, names: ConditionNames): string {
  const services = start.serviceIds.map(names.serviceName)
  const of = services.length === 0 ? '' : ` for ${services.join(', ').replace(/, ([^,]*)$/, ' or $1')}`
  const condition = start.onlyIf === null ? '' : `, only if ${conditionWords(start.onlyIf, names)}`
  return `${eventWords(start)}${of}${condition}`
}

/** Whether a sequence can start again for somebody. */
export function againWords({ again, on }: Pick<StartRule, 'again' | 'on'>): string {
  switch (again.kind) {
    case 'once per client':
      return 'once for each client'
    case 'once per subject':
      return `once for each ${startTraits[on].subject}`
    case 'every time':
      return again.gap === null ? 'every time' : `every time, with ${spanWords(again.gap)} between`
  }
}
