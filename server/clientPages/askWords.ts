import type { Language } from '#core/model/values.ts'

interface AskWords {
  readonly send: string
  readonly yourself: string
  readonly phone: string
  readonly sent: string
  readonly closed: string
  readonly noFiles: string
  readonly tooLarge: string
  readonly tooOften: string
  readonly notNow: string
  readonly needPhone: string
}

/** What the page of a form says beside the words of the form itself. */
export const askWords: Readonly<Record<Language, AskWords>> = {
  en: {
    send: 'Send',
    yourself: 'Who you are',
    phone: 'Telephone',
    sent: 'It has come in',
    closed: 'This form is closed. Please write or call us instead.',
    noFiles: 'Files cannot be sent here. Please leave them out, and answer our e-mail with them.',
    tooLarge: 'That is more than can be sent here. Please shorten it.',
    tooOften: 'Much came from here just now. Please wait a quarter of an hour, or call us.',
    notNow: 'This cannot be sent at present. Please call us.',
    needPhone: 'Please give a telephone number.',
  },
  de: {
    send: 'Abschicken',
    yourself: 'Wer Sie sind',
    phone: 'Telefon',
    sent: 'Es ist angekommen',
    closed: 'Dieses Formular ist geschlossen. Bitte schreiben Sie uns oder rufen Sie an.',
    noFiles:
      'Dateien lassen sich hier nicht schicken. Bitte lassen Sie sie weg und antworten Sie damit auf unsere E-Mail.',
    tooLarge: 'Das ist mehr, als sich hier schicken lässt. Bitte kürzen Sie es.',
    tooOften: 'Von hier kam gerade viel. Bitte warten Sie eine Viertelstunde oder rufen Sie an.',
    notNow: 'Das lässt sich gerade nicht abschicken. Bitte rufen Sie uns an.',
    needPhone: 'Bitte geben Sie eine Telefonnummer an.',
  },
}
