import { escapeHtml } from '#core/letters/html.ts'
import { moneyIn } from '#core/letters/language.ts'
import type { Language } from '#core/model/values.ts'
import type { AskedPayment } from './asking.ts'

interface Words {
  readonly title: string
  readonly madeUp: string
  readonly pay: (amount: string) => string
  readonly refuse: string
  readonly pending: string
  readonly told: string
  readonly ways: Readonly<Record<Telling, string>>
  readonly isDone: string
  readonly back: string
  readonly broken: string
}

/** How what came of a payment is told: as it can happen with a real one. */
export const tellings = ['once', 'twice', 'late', 'never'] as const
export type Telling = (typeof tellings)[number]

const words: Readonly<Record<Language, Words>> = {
  en: {
    title: 'Paying, made up',
    madeUp: 'No money moves here. This page stands in for a real one.',
    pay: (amount) => `Pay ${amount}`,
    refuse: 'Let it be refused',
    pending: 'Leave it pending',
    told: 'What comes of it is told',
    ways: { once: 'once', twice: 'twice', late: 'ten seconds later', never: 'never' },
    isDone: 'This has been paid.',
    back: 'Back',
    broken:
      'This link was changed on its way, or was not made for this page. Please open the one in your message again.',
  },
  de: {
    title: 'Bezahlen, nachgestellt',
    madeUp: 'Hier fließt kein Geld. Diese Seite steht für eine wirkliche.',
    pay: (amount) => `${amount} bezahlen`,
    refuse: 'Ablehnen lassen',
    pending: 'In der Schwebe lassen',
    told: 'Was daraus wird, wird gemeldet',
    ways: { once: 'einmal', twice: 'zweimal', late: 'zehn Sekunden später', never: 'nie' },
    isDone: 'Das ist bezahlt.',
    back: 'Zurück',
    broken:
      'Dieser Link wurde unterwegs verändert oder nicht für diese Seite gemacht. Bitte öffnen Sie den in Ihrer Nachricht noch einmal.',
  },
}

const style = `body{font:1rem/1.5 system-ui,sans-serif;margin:0;background:#e9edf0;color:#16222b}
main{max-width:24rem;margin:0 auto;padding:2rem 1.2rem;background:#fff;min-height:100vh;box-sizing:border-box}
button,a.act{font:inherit;display:block;width:100%;box-sizing:border-box;margin:.6rem 0;padding:.7rem;border:2px solid #16222b;border-radius:4px;background:#fff;color:#16222b;text-align:center;text-decoration:none;cursor:pointer}
button.first{background:#16222b;color:#fff}
label{display:block;padding:.25rem 0}
fieldset{border:0;padding:0;margin:1rem 0}legend{font-weight:bold;padding:0}
.amount{font-size:1.8rem;font-weight:bold;margin:.5rem 0}
.quiet{color:#4a5963;font-size:.9rem}`

const around = (language: Language, body: string) => `<!doctype html>
<html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>${words[language].title}</title><style>${style}</style></head><body><main>${body}</main></body></html>`

/** What is to be paid, and what can come of it. */
export function payingPage(asked: AskedPayment, isPaid: boolean): string {
  const { language, cents, back } = asked
  const said = words[language]
  const head = `<h1>${said.title}</h1><p class="quiet">${said.madeUp}</p><p>${escapeHtml(asked.words)}</p>
<p class="amount">${escapeHtml(moneyIn(language, cents))}</p>`
  if (isPaid) {
    return around(
      language,
      `${head}<p>${said.isDone}</p><a class="act" href="${escapeHtml(back)}">${said.back}</a>`,
    )
  }
  const ways = tellings
    .map(
      (way, index) =>
        `<label><input type="radio" name="told" value="${way}"${index === 0 ? ' checked' : ''}> ${said.ways[way]}</label>`,
    )
    .join('')
  return around(
    language,
    `${head}<form method="post">
<button class="first" name="outcome" value="paid">${escapeHtml(said.pay(moneyIn(language, cents)))}</button>
<button name="outcome" value="refused">${said.refuse}</button>
<button name="outcome" value="pending">${said.pending}</button>
<fieldset><legend>${said.told}</legend>${ways}</fieldset></form>`,
  )
}

export const brokenPage = around(
  'en',
  `<h1>${words.en.title}</h1><p>${words.en.broken}</p><p lang="de">${words.de.broken}</p>`,
)
