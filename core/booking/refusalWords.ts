import type { Language } from '../model/values.ts'

interface RefusalWords {
  readonly notOffered: (service: string) => string
  readonly noStart: (service: string) => string
  readonly past: string
  readonly notice: (hours: number) => string
  readonly horizon: (days: number) => string
  readonly tooMany: (seats: number, people: number) => string
  readonly taken: (when: string) => string
  readonly fewSeats: (left: number) => string
  readonly sameTime: string
  readonly answer: (question: string) => string
  readonly longAnswer: string
  readonly oneLine: string
  readonly noOption: string
  readonly isCancelled: string
  readonly isOver: string
  readonly tooLate: string
  readonly needsNoConfirming: string
  readonly changedMeanwhile: string
}

/** Why a client cannot book, move or cancel something, as the client reads it. */
export const refusalWords: Readonly<Record<Language, RefusalWords>> = {
  en: {
    notOffered: (service) => `${service} cannot be booked here at present.`,
    noStart: (service) => `${service} does not begin at that time. Please choose one of the times.`,
    past: 'This time is past. Please choose another one.',
    notice: (hours) =>
      `This can be booked until ${hours} hours before it begins. Please choose a later time.`,
    horizon: (days) => `This can be booked up to ${days} days ahead. Please choose an earlier time.`,
    tooMany: (seats, people) => `There is room for ${seats}, not for ${people}.`,
    taken: (when) => `${when} has just been taken.`,
    fewSeats: (left) => (left === 1 ? 'Only one seat is left then.' : `Only ${left} seats are left then.`),
    sameTime: 'That is the time you have already.',
    answer: (question) => `Please answer: ${question}`,
    longAnswer: 'At most 2000 characters, please.',
    oneLine: 'One line only, please.',
    noOption: 'Please choose one of the options.',
    isCancelled: 'This booking is cancelled.',
    isOver: 'This booking lies in the past.',
    tooLate: 'It is too late to change this booking here.',
    needsNoConfirming: 'This booking does not wait for you to confirm it.',
    changedMeanwhile: 'This booking has been changed meanwhile. Please look at it again.',
  },
  de: {
    notOffered: (service) => `${service} kann hier zurzeit nicht gebucht werden.`,
    noStart: (service) => `${service} beginnt nicht zu dieser Zeit. Bitte wählen Sie eine der Zeiten.`,
    past: 'Diese Zeit ist vorbei. Bitte wählen Sie eine andere.',
    notice: (hours) =>
      `Das kann bis ${hours} Stunden vor Beginn gebucht werden. Bitte wählen Sie eine spätere Zeit.`,
    horizon: (days) =>
      `Das kann bis zu ${days} Tage im Voraus gebucht werden. Bitte wählen Sie eine frühere Zeit.`,
    tooMany: (seats, people) => `Es ist Platz für ${seats}, nicht für ${people}.`,
    taken: (when) => `${when} ist gerade vergeben worden.`,
    fewSeats: (left) =>
      left === 1 ? 'Dann ist nur noch ein Platz frei.' : `Dann sind nur noch ${left} Plätze frei.`,
    sameTime: 'Das ist die Zeit, die Sie schon haben.',
    answer: (question) => `Bitte beantworten Sie: ${question}`,
    longAnswer: 'Bitte höchstens 2000 Zeichen.',
    oneLine: 'Bitte nur eine Zeile.',
    noOption: 'Bitte wählen Sie eine der Möglichkeiten.',
    isCancelled: 'Diese Buchung ist abgesagt.',
    isOver: 'Diese Buchung liegt in der Vergangenheit.',
    tooLate: 'Diese Buchung kann hier nicht mehr geändert werden.',
    needsNoConfirming: 'Diese Buchung wartet nicht auf Ihre Bestätigung.',
    changedMeanwhile: 'Diese Buchung ist inzwischen geändert worden. Bitte sehen Sie sie noch einmal an.',
  },
}
