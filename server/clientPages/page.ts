import type { Response } from 'express'
import { escapeHtml } from '#core/letters/html.ts'
import type { Language } from '#core/model/values.ts'

interface ClientPage {
  readonly status: number
  readonly language: Language
  readonly title: string
  /** The business's name, as the heading. */
  readonly heading: string
  /** HTML, escaped already. */
  readonly body: string
  /** The zone in which times stand there: told a reader whose clock is another one. Left out: no times to choose from. */
  readonly zone?: string
  /** Whether the business's own web site may show it within a page of its own. */
  readonly isEmbeddable?: boolean
}

const style = `
:root{color-scheme:light dark;--ink:#231B33;--quiet:#5B5470;--mist:#F6F4F9;--paper:#fff;--line:#CFC8DC;--primary:#5A2D6E;--on:#fff;--trouble:#A02E1C}
@media(prefers-color-scheme:dark){:root{--ink:#F1EDF7;--quiet:#B9B0CB;--mist:#1C1626;--paper:#251D33;--line:#4B4161;--primary:#D3B4E4;--on:#231B33;--trouble:#F0A093}}
body{font:17px/1.5 Verdana,'DejaVu Sans',sans-serif;margin:0;background:var(--mist);color:var(--ink)}
main{max-width:34rem;margin:0 auto;padding:1.6rem 1.2rem;background:var(--paper);border-top:4px solid var(--primary)}
h1{font-size:1.35rem;margin:0 0 1.2rem}
h2{font-size:1.1rem;margin:1.6rem 0 .6rem}
h3{font-size:1rem;margin:1.2rem 0 .3rem}
p{margin:.5rem 0}
a{color:var(--primary)}
dl{margin:0 0 1.4rem;padding:.2rem 0 .2rem .9rem;border-left:3px solid #E0980F}
dt{float:left;clear:left;width:4.2rem;font-size:.85rem;line-height:1.75;color:var(--quiet)}
dd{margin:0 0 .3rem 4.6rem;font-weight:bold}
button,a.act{font:inherit;display:block;box-sizing:border-box;width:100%;padding:.8rem 1rem;border-radius:6px;text-align:center;border:2px solid var(--primary);background:var(--paper);color:var(--primary);text-decoration:none;cursor:pointer}
button,a.first{background:var(--primary);color:var(--on)}
:focus-visible{outline:3px solid #E0980F;outline-offset:2px}
.quiet{color:var(--quiet);font-size:.9rem}
.lang{float:right;font-size:.9rem;padding:.2rem}
.fault{color:var(--trouble);font-weight:bold}
.alert{border-left:3px solid var(--trouble);padding:.2rem 0 .2rem .9rem}
ul.offers,ul.times{list-style:none;margin:0;padding:0}
ul.offers li{border-top:1px solid var(--line);padding:.8rem 0}
ul.times li{margin:.5rem 0}
ul.times small{display:block;font-weight:normal;font-size:.85rem}
table{border-collapse:collapse;width:100%;table-layout:fixed;font-variant-numeric:tabular-nums}
th{font-weight:normal;font-size:.85rem;color:var(--quiet);padding:.3rem 0}
td{text-align:center;padding:0;height:2.9rem;border-top:1px solid var(--line);color:var(--quiet)}
td a{display:block;line-height:1.2;padding:.35rem 0;font-weight:bold;text-decoration:none;box-shadow:inset 0 -3px 0 #E0980F}
td a[aria-current]{background:var(--primary);color:var(--on)}
td a small{display:block;font-weight:normal;font-size:.7rem}
nav.months{display:flex;justify-content:space-between;align-items:baseline;gap:1rem}
nav.months a{padding:.5rem 0}
nav.months b{font-size:1.05rem}
label,legend{display:block;margin:1rem 0 .25rem;font-weight:bold}
legend{padding:0}
label.choice{display:flex;gap:.6rem;align-items:flex-start;font-weight:normal;margin:.2rem 0;padding:.35rem 0}
fieldset{border:0;margin:1rem 0 0;padding:0}
input,select,textarea{font:inherit;box-sizing:border-box;width:100%;padding:.6rem .7rem;border:1px solid var(--quiet);border-radius:6px;background:var(--paper);color:var(--ink)}
input[type=radio],input[type=checkbox]{width:1.2rem;height:1.2rem;flex:none;margin:.15rem 0 0}
[aria-invalid=true]{border:2px solid var(--trouble)}
form button{margin-top:1.2rem}
.row{display:flex;gap:.8rem;align-items:end}.row>*{flex:1}.row button{margin:0}
.trap{position:absolute;left:-5000px;height:1px;overflow:hidden}`

/** Tells the server what clock the reader's device shows, once, where it is not that of the place. */
export const clockScript = `(() => {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
  const url = new URL(location.href)
  if (!zone || url.searchParams.has('zone') || zone === document.documentElement.dataset.zone) return
  url.searchParams.set('zone', zone)
  location.replace(url)
})()
`

type Written = Pick<ClientPage, 'language' | 'title' | 'heading' | 'body' | 'zone'>

/** The whole of a page for a client, as HTML. */
export function clientPageHtml({ language, title, heading, body, zone }: Written): string {
  const clock =
    zone === undefined
      ? ['', '']
      : [` data-zone="${escapeHtml(zone)}"`, '<script src="/book/clock.js"></script>']
  return `<!doctype html>
<html lang="${language}"${clock[0] ?? ''}><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<meta name="color-scheme" content="light dark"><title>${escapeHtml(`${title} · ${heading}`)}</title>
<style>${style}</style>${clock[1] ?? ''}
</head><body><main><h1>${escapeHtml(heading)}</h1>${body}</main></body></html>`
}

/** A page of the business for a client: small, plain, made for a telephone; it works without scripts. */
export function sendClientPage(response: Response, page: ClientPage) {
  const { status, zone, isEmbeddable = false } = page
  const policy = ["default-src 'none'", "style-src 'unsafe-inline'", "form-action 'self'"]
  if (zone !== undefined) policy.push("script-src 'self'")
  policy.push(isEmbeddable ? 'frame-ancestors *' : "frame-ancestors 'self'")
  if (isEmbeddable) response.removeHeader('X-Frame-Options')
  response
    .status(status)
    .type('html')
    .set('Content-Security-Policy', policy.join('; '))
    .set('Cache-Control', 'no-store')
    .set('Referrer-Policy', 'no-referrer')
    .send(clientPageHtml(page))
}
