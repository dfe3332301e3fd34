import type { Language } from '../model/values.ts'

interface FormWords {
  readonly need: string
  readonly consent: string
  readonly long: (most: number, has: number) => string
  readonly oneLine: string
  readonly noOption: string
  readonly number: string
  readonly people: string
  readonly amount: string
  readonly date: string
  readonly past: string
  readonly time: string
  readonly email: string
  readonly phone: string
}

const counted = (language: string, count: number) => new Intl.NumberFormat(language).format(count)

/** What is wrong with an answer, as who gave it reads it. */
export const formWords: Readonly<Record<Language, FormWords>> = {
  en: {
    need: 'Please fill this in.',
    consent: 'Please tick this to go on.',
    long: (most, has) =>
      `At most ${counted('en', most)} characters, please; these are ${counted('en', has)}.`,
    oneLine: 'One line only, please.',
    noOption: 'Please choose one of the options.',
    number: 'Please give a number, such as 4 or 2.5.',
    people: 'Please give a whole number of people, up to 500.',
    amount: 'Please give an amount, such as 1200 or 99.50.',
    date: 'Please give a date, such as 2026-08-01.',
    past: 'This day is past. Please choose another one.',
    time: 'Please give a time, such as 18:30.',
    email: 'Please give an e-mail address, such as name@place.example.',
    phone: 'Please give a telephone number.',
  },
  de: {
    need: 'Bitte ausfüllen.',
    consent: 'Bitte ankreuzen, damit es weitergeht.',
    long: (most, has) => `Bitte höchstens ${counted('de', most)} Zeichen; das sind ${counted('de', has)}.`,
    oneLine: 'Bitte nur eine Zeile.',
    noOption: 'Bitte wählen Sie eine der Möglichkeiten.',
    number: 'Bitte geben Sie eine Zahl an, etwa 4 oder 2,5.',
    people: 'Bitte geben Sie eine ganze Zahl von Personen an, höchstens 500.',
    amount: 'Bitte geben Sie einen Betrag an, etwa 1200 oder 99,50.',
    date: 'Bitte geben Sie ein Datum an, etwa 2026-08-01.',
    past: 'Dieser Tag ist vorbei. Bitte wählen Sie einen anderen.',
    time: 'Bitte geben Sie eine Uhrzeit an, etwa 18:30.',
    email: 'Bitte geben Sie eine E-Mail-Adresse an, etwa name@ort.example.',
    phone: 'Bitte geben Sie eine Telefonnummer an.',
  },
}
