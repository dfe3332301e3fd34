import type { FieldName } from '../model/letter.ts'
import { language, type Language } from '../model/values.ts'
import { weekdayOf, yearMonthDayOf, type EpochDay } from '../time/calendar.ts'
import { longDate, monthName, weekdayName } from '../time/format.ts'

export const languages: readonly Language[] = language.options

/** What the team reads: notes to staff are in the language of the screens, whatever the client's is. */
export const teamLanguage: Language = 'en'

/** What a language is called. */
export const languageNames: Readonly<Record<Language, string>> = { en: 'English', de: 'German' }

const germanWeekdays = ['Montag', 'Dienstag', 'Mittwoch', 'Donnerstag', 'Freitag', 'Samstag', 'Sonntag']
const germanMonths = [
  'Januar',
  'Februar',
  'März',
  'April',
  'Mai',
  'Juni',
  'Juli',
  'August',
  'September',
  'Oktober',
  'November',
  'Dezember',
]

export function weekdayIn(language: Language, day: EpochDay): string {
  return language === 'de' ? (germanWeekdays[weekdayOf(day) - 1] ?? '') : weekdayName(day)
}

/** `Saturday 16 May 2026`, `Samstag, 16. Mai 2026` */
export function longDateIn(language: Language, day: EpochDay): string {
  if (language === 'en') return longDate(day)
  const { year, month, day: dayOfMonth } = yearMonthDayOf(day)
  return `${weekdayIn('de', day)}, ${dayOfMonth}. ${germanMonths[month - 1] ?? ''} ${year}`
}

/** `16 May`, `16. Mai` */
export function shortDateIn(language: Language, day: EpochDay): string {
  const { month, day: dayOfMonth } = yearMonthDayOf(day)
  return language === 'de'
    ? `${dayOfMonth}. ${germanMonths[month - 1] ?? ''}`
    : `${dayOfMonth} ${monthName(month)}`
}

/** `May 2026`, `Mai 2026`: the month of a day. */
export function monthIn(language: Language, day: EpochDay): string {
  const { year, month } = yearMonthDayOf(day)
  return `${language === 'de' ? (germanMonths[month - 1] ?? '') : monthName(month)} ${year}`
}

const words = {
  en: { today: 'today', tomorrow: 'tomorrow', yesterday: 'yesterday', on: 'on', this: 'this' },
  de: { today: 'heute', tomorrow: 'morgen', yesterday: 'gestern', on: 'am', this: 'diesen' },
} as const

/** How far a day lies from the day of sending: today, tomorrow, this Saturday, on Saturday 16 May 2026. */
export function dayWords(language: Language, sendingDay: EpochDay, day: EpochDay): string {
  const distance = day - sendingDay
  const own = words[language]
  if (distance === 0) return own.today
  if (distance === 1) return own.tomorrow
  if (distance > 1 && distance < 7) return `${own.this} ${weekdayIn(language, day)}`
  return `${own.on} ${longDateIn(language, day)}`
}

const counted = (count: number, one: string, many: string) => `${count} ${count === 1 ? one : many}`

/** How much time is left by the calendar: today, tomorrow, in 5 days, in 3 weeks, in 4 months. */
export function distanceWords(language: Language, sendingDay: EpochDay, day: EpochDay): string {
  const days = day - sendingDay
  const own = words[language]
  if (days === 0) return own.today
  if (days === 1) return own.tomorrow
  if (days === -1) return own.yesterday
  const length = Math.abs(days)
  const isGerman = language === 'de'
  const span =
    length < 14 || (length < 61 && length % 7 !== 0)
      ? counted(length, isGerman ? 'Tag' : 'day', isGerman ? 'Tagen' : 'days')
      : length < 61
        ? counted(length / 7, isGerman ? 'Woche' : 'week', isGerman ? 'Wochen' : 'weeks')
        : counted(Math.round(length / 30.44), isGerman ? 'Monat' : 'month', isGerman ? 'Monaten' : 'months')
  if (days > 0) return `in ${span}`
  return isGerman ? `vor ${span}` : `${span} ago`
}

/** Money: `€250.00`, `250,00 €`. */
export function moneyIn(language: Language, cents: number): string {
  const whole = String(Math.floor(cents / 100)).replace(/\B(?=(\d{3})+$)/g, language === 'de' ? '.' : ',')
  const rest = String(cents % 100).padStart(2, '0')
  return language === 'de' ? `${whole},${rest} €` : `€${whole}.${rest}`
}

/** How long something takes: `3 h 30 min`. */
export function durationIn(language: Language, minutes: number): string {
  const days = Math.floor(minutes / 1440)
  const hours = Math.floor((minutes % 1440) / 60)
  const rest = minutes % 60
  const dayWord = language === 'de' ? (days === 1 ? 'Tag' : 'Tage') : days === 1 ? 'day' : 'days'
  return [days > 0 ? `${days} ${dayWord}` : '', hours > 0 ? `${hours} h` : '', rest > 0 ? `${rest} min` : '']
    .filter(Boolean)
    .join(' ')
}

export function peopleIn(language: Language, count: number): string {
  return language === 'de' ? counted(count, 'Person', 'Personen') : counted(count, 'person', 'people')
}

interface Labels {
  readonly what: string
  readonly when: string
  readonly where: string
  readonly for: string
  readonly to: string
  /** What a field says that is a link. */
  readonly links: Readonly<Partial<Record<FieldName, string>>> & { readonly 'link.optOut': string }
}

/** The labels of the facts block, and other words that stand in every letter. */
export const labels: Readonly<Record<Language, Labels>> = {
  en: {
    what: 'What',
    when: 'When',
    where: 'Where',
    for: 'For',
    to: 'to',
    links: {
      'link.optOut': 'Choose which messages you get',
      'link.booking': 'Your booking',
      'link.confirm': 'Confirm the booking',
      'link.calendar': 'Add to your calendar',
      'link.move': 'Move the booking',
      'link.cancel': 'Cancel the booking',
      'link.again': 'Book again',
      'link.pay': 'Pay',
      'link.all': 'All your bookings',
    },
  },
  de: {
    what: 'Was',
    when: 'Wann',
    where: 'Wo',
    for: 'Für',
    to: 'bis',
    links: {
      'link.optOut': 'Auswählen, welche Nachrichten kommen',
      'link.booking': 'Ihre Buchung',
      'link.confirm': 'Buchung bestätigen',
      'link.calendar': 'In den Kalender eintragen',
      'link.move': 'Buchung verschieben',
      'link.cancel': 'Buchung absagen',
      'link.again': 'Wieder buchen',
      'link.pay': 'Bezahlen',
      'link.all': 'Alle Ihre Buchungen',
    },
  },
}
