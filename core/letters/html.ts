/** Escapes text for HTML, in elements and in quoted attributes. */
export function escapeHtml(text: string): string {
  return text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&#39;')
}

const entities: Readonly<Record<string, string>> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&quot;': '"',
  '&#39;': "'",
}

/** The reverse of it. */
export const unescapeHtml = (text: string): string =>
  text.replace(/&(amp|lt|gt|quot|#39);/g, (entity) => entities[entity] ?? entity)

const ink = '#231B33'
const quiet = '#5B5470'
const font = "font-family:Verdana,'DejaVu Sans',sans-serif;"

/**
 * The same letter in a dark scheme, by classes: `vi` ink, `vq` quiet words, `vl` links, `vp` paper, `vb` what lies behind it.
 * Mail programs that leave out styles of the head show the light one.
 */
const darkStyle =
  '<style>:root{color-scheme:light dark;supported-color-schemes:light dark}' +
  '@media (prefers-color-scheme:dark){body,.vb{background:#17131F!important}.vp{background:#221C2E!important}' +
  '.vi{color:#EDE8F5!important}.vq{color:#B9B0CC!important}.vl{color:#CFAEE3!important}}</style>'

/** The look of each piece of a letter: tables and inlined styles, as mail programs take them. */
export const pieces = {
  heading: [
    `<h1 class="vi" style="${font}font-size:20px;line-height:1.3;margin:0 0 16px;color:${ink}">`,
    '</h1>\n',
  ],
  paragraph: [
    `<p class="vi" style="${font}font-size:15px;line-height:1.55;margin:0 0 14px;color:${ink}">`,
    '</p>\n',
  ],
  divider: '<hr style="border:0;border-top:1px solid #D9D4E3;margin:18px 0">\n',
  button: {
    open: `<table role="presentation" cellpadding="0" cellspacing="0" style="margin:6px 0 20px"><tr><td style="background:#5A2D6E;border-radius:4px"><a href="`,
    middle: `" style="${font}display:inline-block;padding:11px 20px;font-size:15px;color:#FFFFFF;text-decoration:none;font-weight:bold">`,
    close: '</a></td></tr></table>\n',
  },
  link: { open: '<a class="vl" href="', middle: '" style="color:#5A2D6E">', close: '</a>' },
  picture: (source: string, alternative: string) =>
    `<img src="${source}" alt="${alternative}" width="544" style="display:block;width:100%;max-width:544px;height:auto;border:0;margin:0 0 16px">\n`,
  columns: [
    '<table role="presentation" width="100%" cellpadding="0" cellspacing="0"><tr><td width="50%" valign="top" style="padding-right:10px">',
    '</td><td width="50%" valign="top" style="padding-left:10px">',
    '</td></tr></table>\n',
  ],
} as const

export function factsHtml(rows: readonly { readonly label: string; readonly value: string }[]): string {
  if (rows.length === 0) return ''
  const lines = rows.map(
    ({ label, value }) =>
      `<tr><td class="vq" style="${font}font-size:13px;color:${quiet};padding:3px 14px 3px 14px;vertical-align:baseline">${escapeHtml(label)}</td>` +
      `<td class="vi" style="${font}font-size:15px;color:${ink};padding:3px 0;font-weight:bold;vertical-align:baseline">${escapeHtml(value)}</td></tr>`,
  )
  return `<table role="presentation" cellpadding="0" cellspacing="0" style="margin:4px 0 18px;border-left:3px solid #E0980F">${lines.join('')}</table>\n`
}

/** How large the picture of a signature stands, in pixels each way. */
const signaturePixels = 100

/** The lines of a signature, beside a picture where there is one. */
export function signatureHtml(lines: readonly string[], picture: string | null): string {
  const words = signatureWords(lines)
  if (picture === null) return words
  const size = `width="${signaturePixels}" height="${signaturePixels}"`
  return (
    `<table role="presentation" cellpadding="0" cellspacing="0" style="margin:18px 0 0"><tr><td valign="top" style="padding:0 14px 0 0">` +
    `<img src="${picture}" alt="" ${size} style="display:block;border:0"></td><td valign="top">${words}</td></tr></table>\n`
  )
}

function signatureWords(lines: readonly string[]): string {
  return `<p class="vq" style="${font}font-size:14px;line-height:1.5;margin:18px 0 0;color:${quiet}">${lines.map(escapeHtml).join('<br>')}</p>\n`
}

export function footerHtml(address: string, optOutUrl: string, words: string): string {
  return `<p class="vq" style="${font}font-size:12px;line-height:1.5;margin:22px 0 0;color:${quiet}">${escapeHtml(address)}<br><a class="vq" href="${escapeHtml(optOutUrl)}" style="color:${quiet}">${escapeHtml(words)}</a></p>\n`
}

/** The page around a letter's body: everything inlined, nothing loaded from outside, fit for dark schemes. */
export function pageAround(
  language: string,
  letterhead: 'none' | 'business',
): [string, string, string, string] {
  const isPlain = letterhead === 'none'
  const table = isPlain
    ? 'max-width:600px'
    : 'max-width:600px;background:#FFFFFF;border-top:4px solid #5A2D6E'
  const back = isPlain ? '' : ';background:#F6F4F9'
  return [
    `<!doctype html>\n<html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta name="color-scheme" content="light dark">${darkStyle}<title>`,
    `</title></head>\n<body class="vb" style="margin:0;padding:0${back}">\n<div style="display:none;max-height:0;overflow:hidden">`,
    `</div>\n<table class="vb" role="presentation" width="100%" cellpadding="0" cellspacing="0" style="margin:0${back}"><tr><td align="${isPlain ? 'left' : 'center'}" style="padding:${isPlain ? '12px' : '24px 12px'}">\n<table${isPlain ? '' : ' class="vp"'} role="presentation" width="100%" cellpadding="0" cellspacing="0" style="${table}"><tr><td align="left" style="padding:${isPlain ? '0' : '28px 28px 32px'}">\n`,
    '</td></tr></table>\n</td></tr></table>\n</body></html>\n',
  ]
}

export function letterheadHtml(name: string): string {
  return `<p class="vq" style="${font}font-size:13px;letter-spacing:0.06em;margin:0 0 20px;color:${quiet}">${escapeHtml(name)}</p>\n`
}
