import { escapeHtml } from '#core/letters/html.ts'
import type { Signing } from '#core/model/document.ts'
import type { Language } from '#core/model/values.ts'
import { dateAndTime } from '#core/time/format.ts'
import type { Zone } from '#core/time/zones.ts'
import { alertBox, hidden } from './form.ts'

interface SignWords {
  readonly title: string
  readonly name: string
  readonly nameHelp: string
  readonly sign: string
  readonly signedBy: (name: string, when: string) => string
  readonly copy: string
  readonly needName: string
  readonly needConsent: string
  readonly changed: string
  readonly unknown: string
  readonly tooOften: string
}

export const signWords: Readonly<Record<Language, SignWords>> = {
  en: {
    title: 'To sign',
    name: 'Your name',
    nameHelp: 'Typed here, it counts as your signature.',
    sign: 'Sign it',
    signedBy: (name, when) => `Signed by ${name} on ${when}.`,
    copy: 'Your copy (PDF)',
    needName: 'Please type your name.',
    needConsent: 'Please tick that you agree.',
    changed: 'This has been changed since you opened it. Please read it once more; nothing is signed yet.',
    unknown: 'There is nothing to sign here. Please use the link of our latest message, or call us.',
    tooOften: 'Much came from here just now. Please wait a quarter of an hour.',
  },
  de: {
    title: 'Zu unterschreiben',
    name: 'Ihr Name',
    nameHelp: 'Hier eingetippt, gilt er als Ihre Unterschrift.',
    sign: 'Unterschreiben',
    signedBy: (name, when) => `Unterschrieben von ${name} am ${when}.`,
    copy: 'Ihre Ausfertigung (PDF)',
    needName: 'Bitte tippen Sie Ihren Namen ein.',
    needConsent: 'Bitte kreuzen Sie an, dass Sie einverstanden sind.',
    changed:
      'Das wurde geändert, seit Sie es geöffnet haben. Bitte lesen Sie es noch einmal; unterschrieben ist noch nichts.',
    unknown:
      'Hier gibt es nichts zu unterschreiben. Bitte nehmen Sie den Link unserer letzten Nachricht oder rufen Sie an.',
    tooOften: 'Von hier kam gerade viel. Bitte warten Sie eine Viertelstunde.',
  },
}

/** What was typed, and what is wrong with it. */
export interface TypedSignature {
  readonly name: string
  readonly isTicked: boolean
  readonly faults: { readonly name?: string; readonly consent?: string }
}

export const nothingSigned: TypedSignature = { name: '', isTicked: false, faults: {} }

const textOf = ({ document: { name, paragraphs } }: Signing) =>
  `<h2>${escapeHtml(name)}</h2>${paragraphs
    .map(({ kind, text }) =>
      kind === 'heading' ? `<h3>${escapeHtml(text)}</h3>` : `<p>${escapeHtml(text)}</p>`,
    )
    .join('')}`

const fault = (id: string, sentence: string | undefined) =>
  sentence === undefined
    ? { line: '', attributes: '' }
    : {
        line: `<p class="fault" id="fault-${id}">${escapeHtml(sentence)}</p>`,
        attributes: ` aria-invalid="true" aria-describedby="fault-${id}"`,
      }

interface SignPage {
  readonly signing: Signing
  readonly typed: TypedSignature
  readonly alert: string | null
  readonly path: string
  readonly stamp: string
  /** That of the business. */
  readonly zone: Zone
}

/** A document to be read and signed, or the signed one with the way to its copy. */
export function signBody({ signing, typed, alert, path, stamp, zone }: SignPage): string {
  const { document, signed, hash } = signing
  const words = signWords[document.language]
  if (signed) {
    const said = words.signedBy(signed.typedName, dateAndTime(zone, signed.at))
    return `<p role="status"><b>✓ ${escapeHtml(said)}</b></p><p><a class="act first" href="${escapeHtml(`${path}/document.pdf`)}">${words.copy}</a></p>${textOf(signing)}<p class="quiet">SHA-256 ${hash}</p>`
  }
  const name = fault('name', typed.faults.name)
  const consent = fault('consent', typed.faults.consent)
  const checked = typed.isTicked ? ' checked' : ''
  return [
    alert === null ? '' : alertBox(alert),
    textOf(signing),
    `<form method="post" action="${escapeHtml(path)}" novalidate>`,
    `<label class="choice" for="consent"><input type="checkbox" id="consent" name="consent" value="yes" required${checked}${consent.attributes}>${escapeHtml(document.consent)}</label>${consent.line}`,
    `<label for="name">${words.name}</label><input id="name" name="name" maxlength="120" autocomplete="name" required value="${escapeHtml(typed.name)}"${name.attributes}>${name.line}<p class="quiet">${words.nameHelp}</p>`,
    `${hidden('hash', hash)}${hidden('stamp', stamp)}<button>${words.sign}</button></form>`,
  ].join('')
}
