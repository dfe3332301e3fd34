import { de, en } from 'chrono-node'
import { isoDate, type Language } from '../model/values.ts'
import {
  addMonths,
  epochDayOf,
  isoDateOf,
  mondayOf,
  yearMonthDayOf,
  type EpochDay,
  type MinuteOfDay,
} from '../time/calendar.ts'

/** A date or a stretch of days that somebody wrote, and the words it stands in. */
export interface WrittenDate {
  readonly text: string
  /** Where the words begin. */
  readonly index: number
  readonly from: EpochDay
  /** Its last day; the same as the first where it is a day. */
  readonly to: EpochDay
  /** Null: it says no time of day. */
  readonly minute: MinuteOfDay | null
}

const dayOf = (year: number, month: number, day: number): EpochDay =>
  epochDayOf(`${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`)

const lastOfMonth = (first: EpochDay): EpochDay => addMonths(first, 1) - 1

/** Easter Sunday, Gregorian: the anonymous algorithm in Meeus, Astronomical Algorithms, chapter 8. */
export function easterOf(year: number): EpochDay {
  const a = year % 19
  const b = Math.floor(year / 100)
  const c = year % 100
  const d = Math.floor(b / 4)
  const e = b % 4
  const f = Math.floor((b + 8) / 25)
  const g = Math.floor((b - f + 1) / 3)
  const h = (19 * a + b - d - g + 15) % 30
  const i = Math.floor(c / 4)
  const k = c % 4
  const l = (32 + 2 * e + 2 * i - h - k) % 7
  const m = Math.floor((a + 11 * h + 22 * l) / 451)
  const month = Math.floor((h + l - 7 * m + 114) / 31)
  return dayOf(year, month, ((h + l - 7 * m + 114) % 31) + 1)
}

interface Stretch {
  readonly words: RegExp
  /** Its days in a year. */
  readonly of: (year: number) => readonly [EpochDay, EpochDay]
}

/** Seasons as people mean them: by whole months, as meteorologists count. Common practice, no source. */
const season = (words: RegExp, first: number): Stretch => ({
  words,
  of: (year) => [dayOf(year, first, 1), lastOfMonth(addMonths(dayOf(year, first, 1), 2))],
})

const feast = (words: RegExp, fromEaster: number, length: number): Stretch => ({
  words,
  of: (year) => [easterOf(year) + fromEaster, easterOf(year) + fromEaster + length - 1],
})

const fixed = (words: RegExp, month: number, day: number, length: number): Stretch => ({
  words,
  of: (year) => [dayOf(year, month, day), dayOf(year, month, day) + length - 1],
})

const stretches: readonly Stretch[] = [
  season(/(?<!\p{L})(spring|frühlings?|frühjahrs?)(?!\p{L})/giu, 3),
  season(/\b(summer|sommer)\b/giu, 6),
  season(/\b(autumn|herbst)\b/giu, 9),
  season(/\bwinter\b/giu, 12),
  feast(/\b(easter|ostern)\b/giu, -2, 4),
  feast(/\b(whitsun|pentecost|pfingsten)\b/giu, 49, 2),
  feast(/\b(ascension day|christi himmelfahrt|himmelfahrt)\b/giu, 39, 1),
  fixed(/\b(christmas|weihnachten)\b/giu, 12, 24, 3),
  fixed(/\b(new year|neujahr|silvester)\b/giu, 12, 31, 2),
]

/** The year after the word, or the next time it comes: what is over by today is meant for next year. */
function nextStretch({ of }: Stretch, today: EpochDay, year: number | null): readonly [EpochDay, EpochDay] {
  if (year !== null) return of(year)
  const { year: present } = yearMonthDayOf(today)
  const found = [present - 1, present, present + 1].map(of).find(([, to]) => to >= today)
  return found ?? of(present + 1)
}

function writtenStretches(text: string, today: EpochDay): readonly WrittenDate[] {
  return stretches.flatMap((stretch) =>
    [...text.matchAll(stretch.words)].map((match): WrittenDate => {
      const behind = /^\s+(?:of\s+)?(20\d\d)\b/u.exec(text.slice(match.index + match[0].length))
      const isNext = /\b(next|nächste[nmrs]?|kommende[nmrs]?)\s+$/iu.test(text.slice(0, match.index))
      const { year } = yearMonthDayOf(today)
      const written = behind ? Number(behind[1]) : null
      const [from, to] = nextStretch(stretch, today, written)
      // “Next summer” said in summer is the one after.
      const [nextFrom, nextTo] = isNext && from <= today ? stretch.of(year + 1) : [from, to]
      return {
        text: match[0] + (behind?.[0] ?? ''),
        index: match.index,
        from: nextFrom,
        to: nextTo,
        minute: null,
      }
    }),
  )
}

const weeks: readonly { readonly words: RegExp; readonly ahead: number }[] = [
  { words: /\b(this week|diese(?:r|n)? woche)\b/giu, ahead: 0 },
  {
    words: /\b(next week|(?:nächste|kommende)[nr]? woche|early next week|anfang nächster woche)\b/giu,
    ahead: 1,
  },
  { words: /(?<!\p{L})(the week after next|übernächste[nr]? woche)(?!\p{L})/giu, ahead: 2 },
]

function writtenWeeks(text: string, today: EpochDay): readonly WrittenDate[] {
  return weeks.flatMap(({ words, ahead }) =>
    [...text.matchAll(words)].map((match): WrittenDate => {
      const from = mondayOf(today) + 7 * ahead
      return { text: match[0], index: match.index, from: Math.max(from, today), to: from + 6, minute: null }
    }),
  )
}

const monthNames =
  'january|february|march|april|june|july|august|september|october|november|december|januar|februar|märz|juni|juli|oktober|dezember'
const numberOfMonth: Readonly<Record<string, number>> = {
  january: 1,
  januar: 1,
  february: 2,
  februar: 2,
  march: 3,
  märz: 3,
  april: 4,
  may: 5,
  mai: 5,
  june: 6,
  juni: 6,
  july: 7,
  juli: 7,
  august: 8,
  september: 9,
  october: 10,
  oktober: 10,
  november: 11,
  december: 12,
  dezember: 12,
}
// “May” is a word of its own: it is a month only behind one that says so.
const writtenMonth = new RegExp(
  `(?:\\b(?:in|im|until|bis|before|vor|after|nach|since|ab|not|early|late|mid|anfang|mitte|ende)\\s+(may|mai)\\b|(?<!\\d[.\\s]{0,3})\\b(${monthNames})\\b)(?!\\s*\\d{1,2}\\b)(?:\\s+(20\\d\\d)\\b)?`,
  'giu',
)

/** The next time a month comes, its present one included. */
function writtenMonths(text: string, today: EpochDay): readonly WrittenDate[] {
  const { year, month } = yearMonthDayOf(today)
  return [...text.matchAll(writtenMonth)].map((match): WrittenDate => {
    const [whole, may, named, behind] = match
    const word = may ?? named ?? ''
    const wanted = numberOfMonth[word.toLowerCase()] ?? month
    const from = dayOf(behind === undefined ? (wanted < month ? year + 1 : year) : Number(behind), wanted, 1)
    const start = whole.toLowerCase().indexOf(word.toLowerCase())
    return { text: whole.slice(start), index: match.index + start, from, to: lastOfMonth(from), minute: null }
  })
}

/** `12.6.`, as dates are written short in German. */
function writtenShort(text: string, today: EpochDay): readonly WrittenDate[] {
  const { year } = yearMonthDayOf(today)
  return [...text.matchAll(/(?<![\d.])(\d{1,2})\.\s?(\d{1,2})\.(?!\d)/gu)].flatMap((match): WrittenDate[] => {
    const [words, day = '', month = ''] = match
    const of = (inYear: number) => `${inYear}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`
    const inYear = [year, year + 1].find(
      (one) => isoDate.safeParse(of(one)).success && epochDayOf(of(one)) >= today,
    )
    if (inYear === undefined) return []
    const from = epochDayOf(of(inYear))
    return [{ text: words, index: match.index, from, to: from, minute: null }]
  })
}

const weekends = /\b((?:this|next|am|nächstes|kommendes)?\s*(?:weekend|wochenende))\b/giu

function writtenWeekends(text: string, today: EpochDay): readonly WrittenDate[] {
  return [...text.matchAll(weekends)].map((match): WrittenDate => {
    const saturday = mondayOf(today) + 5
    const isAfter = /next|nächste/iu.test(match[0])
    const from = isAfter ? saturday + 7 : Math.max(saturday, today)
    return {
      text: match[0],
      index: match.index,
      from,
      to: (isAfter ? saturday + 7 : saturday) + 1,
      minute: null,
    }
  })
}

const monthsAhead = /\b(next month|(?:im\s+)?nächste[nm] monat|kommenden monat)\b/giu
const yearAhead = /\b(next year|(?:im\s+)?nächste[ns]? jahr|kommendes jahr)\b/giu
const counted =
  /\b(?:in|nach|within)\s+(?:about\s+|etwa\s+|ca\.?\s+|the next\s+|den nächsten\s+)?(\d{1,2}|an?|one|two|three|four|six|eine[mnr]?|zwei|drei|vier|sechs|ein paar|a few|a couple of)\s+(days?|weeks?|months?|years?|tag(?:en?)?|wochen?|monat(?:en?)?|jahr(?:en?)?)\b/giu

const numbers: Readonly<Record<string, number>> = {
  a: 1,
  an: 1,
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  six: 6,
  zwei: 2,
  drei: 3,
  vier: 4,
  sechs: 6,
  'a few': 3,
  'ein paar': 3,
  'a couple of': 2,
}

const numberOf = (word: string) => numbers[word.toLowerCase()] ?? (/^\d+$/.test(word) ? Number(word) : 1)

/** So much later than a day, in days, weeks, months or years of two languages. */
function later(day: EpochDay, count: number, unit: string): EpochDay {
  if (/^(day|tag)/i.test(unit)) return day + count
  if (/^(week|woche)/i.test(unit)) return day + 7 * count
  return addMonths(day, /^(month|monat)/i.test(unit) ? count : 12 * count)
}

function writtenDistances(text: string, today: EpochDay): readonly WrittenDate[] {
  const months = [...text.matchAll(monthsAhead)].map((match): WrittenDate => {
    const { year, month } = yearMonthDayOf(today)
    const from = addMonths(dayOf(year, month, 1), 1)
    return { text: match[0], index: match.index, from, to: lastOfMonth(from), minute: null }
  })
  const years = [...text.matchAll(yearAhead)].map((match): WrittenDate => {
    const { year } = yearMonthDayOf(today)
    return {
      text: match[0],
      index: match.index,
      from: dayOf(year + 1, 1, 1),
      to: dayOf(year + 1, 12, 31),
      minute: null,
    }
  })
  const distances = [...text.matchAll(counted)].map((match): WrittenDate => {
    const day = later(today, numberOf(match[1] ?? ''), match[2] ?? '')
    return { text: match[0], index: match.index, from: day, to: day, minute: null }
  })
  return [...months, ...years, ...distances]
}

/** What chrono takes for a date and is none here: a bare number, a clock time alone, “now”, a distance read above. */
const isNoDate = (text: string) =>
  /\b(later|earlier|before|ago|später|früher|zuvor|davor|vorher)\b/iu.test(text) ||
  /^\s*\d{1,4}\s*$/u.test(text) ||
  /^(now|jetzt|sofort|today's|a second|a minute|moment|may|sun|sat|march|mar)$/iu.test(text.trim())

/** Dates that chrono reads: `20 May`, `20.5.`, `Friday`, `tomorrow at 10`; a day or, where it says none, a month. */
function writtenDates(text: string, today: EpochDay, language: Language): readonly WrittenDate[] {
  const { year, month, day } = yearMonthDayOf(today)
  // Read and written in local fields: the zone of the machine cancels out.
  const reference = new Date(year, month - 1, day, 12)
  const parser = language === 'de' ? de.casual : en.GB
  return parser
    .parse(text, reference, { forwardDate: true })
    .flatMap(({ start, end, text: words, index }) => {
      const isMonth = start.isCertain('month') && !start.isCertain('day') && !start.isCertain('weekday')
      const saysDay = ['day', 'weekday', 'month'].some((part) => start.isCertain(part as 'day'))
      // “nächsten Fr” of “nächsten Frühjahr” is half a word.
      const isHalf = /^\p{L}/u.test(text.slice(index + words.length)) || /\p{L}$/u.test(text.slice(0, index))
      if (isNoDate(words) || isHalf || !saysDay) return []
      const at = (of: typeof start) =>
        dayOf(of.get('year') ?? year, of.get('month') ?? month, of.get('day') ?? 1)
      const first = isMonth ? dayOf(start.get('year') ?? year, start.get('month') ?? month, 1) : at(start)
      const hour = start.isCertain('hour') ? start.get('hour') : null
      const minute = hour === null ? null : hour * 60 + (start.get('minute') ?? 0)
      const to = end && end.get('day') !== null ? at(end) : isMonth ? lastOfMonth(first) : first
      return [{ text: words, index, from: first, to: Math.max(first, to), minute }]
    })
}

const overlaps = (one: WrittenDate, other: WrittenDate) =>
  one.index < other.index + other.text.length && other.index < one.index + one.text.length

/** So much of a mail is looked through for dates. */
const mostRead = 4000

/**
 * The dates in a text, in their order, seen from a day: those of the calendar, weeks, seasons, feasts, and distances such
 * as “in two months”. Of several readings of the same words the longest counts.
 */
export function datesInWords(whole: string, today: EpochDay, language: Language): readonly WrittenDate[] {
  const text = whole.slice(0, mostRead)
  const found = [
    ...writtenDistances(text, today),
    ...writtenWeeks(text, today),
    ...writtenWeekends(text, today),
    ...writtenMonths(text, today),
    ...writtenShort(text, today),
    ...writtenStretches(text, today),
    ...writtenDates(text, today, language),
  ].filter(({ from }) => isoDateOf(from).length === 10)
  const kept: WrittenDate[] = []
  for (const one of found.toSorted((a, b) => b.text.length - a.text.length)) {
    if (!kept.some((other) => overlaps(one, other))) kept.push(one)
  }
  return kept.toSorted((one, other) => one.index - other.index)
}
