import type { Response } from 'express'
import { escapeHtml } from '#core/letters/html.ts'

interface ClientPage {
  readonly status: number
  readonly language: 'en' | 'de'
  readonly title: string
  /** The business's name, as the heading. */
  readonly heading: string
  /** HTML, escaped already. */
  readonly body: string
}

const style = `
:root{color-scheme:light dark;--ink:#231B33;--quiet:#5B5470;--mist:#F6F4F9;--paper:#fff;--primary:#5A2D6E;--on:#fff}
@media(prefers-color-scheme:dark){:root{--ink:#F1EDF7;--quiet:#B9B0CB;--mist:#1C1626;--paper:#251D33;--primary:#D3B4E4;--on:#231B33}}
body{font:17px/1.5 Verdana,'DejaVu Sans',sans-serif;margin:0;background:var(--mist);color:var(--ink)}
main{max-width:34rem;margin:0 auto;padding:1.6rem 1.2rem;background:var(--paper);border-top:4px solid var(--primary)}
h1{font-size:1.35rem;margin:0 0 1.2rem}
dl{margin:0 0 1.4rem;padding:.2rem 0 .2rem .9rem;border-left:3px solid #E0980F}
dt{float:left;clear:left;width:4.2rem;font-size:.85rem;line-height:1.75;color:var(--quiet)}
dd{margin:0 0 .3rem 4.6rem;font-weight:bold}
button,a.act{font:inherit;display:block;box-sizing:border-box;width:100%;padding:.8rem 1rem;border-radius:6px;text-align:center;border:2px solid var(--primary);background:var(--paper);color:var(--primary);text-decoration:none;cursor:pointer}
button,a.first{background:var(--primary);color:var(--on)}
:focus-visible{outline:3px solid #E0980F;outline-offset:2px}`

/** A page of the business for a client: small, plain, made for a telephone, without scripts. */
export function sendClientPage(response: Response, { status, language, title, heading, body }: ClientPage) {
  response
    .status(status)
    .type('html')
    .set('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'")
    .set('Cache-Control', 'no-store')
    .set('Referrer-Policy', 'no-referrer').send(`<!doctype html>
<html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<meta name="color-scheme" content="light dark"><title>${escapeHtml(title)}</title>
<style>${style}</style>
</head><body><main><h1>${escapeHtml(heading)}</h1>${body}</main></body></html>`)
}
