import type { MergedBlock, MergedLetter, MergedText } from './merge.ts'

/** Escapes text for HTML, in elements and in quoted attributes. */
export function escapeHtml(text: string): string {
  return text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&#39;')
}

const ink = '#231B33'
const font = "font-family:Verdana,'DejaVu Sans',sans-serif;"

function htmlText(content: readonly MergedText[]): string {
  return content
    .map(({ text, isStrong }) => (isStrong ? `<strong>${escapeHtml(text)}</strong>` : escapeHtml(text)))
    .join('')
}

function htmlBlock(block: MergedBlock): string {
  switch (block.kind) {
    case 'heading':
      return `<h1 style="${font}font-size:20px;line-height:1.3;margin:0 0 16px;color:${ink}">${htmlText(block.content)}</h1>`
    case 'paragraph':
      return `<p style="${font}font-size:15px;line-height:1.55;margin:0 0 14px;color:${ink}">${htmlText(block.content)}</p>`
    case 'divider':
      return '<hr style="border:0;border-top:1px solid #D9D4E3;margin:18px 0">'
    case 'facts':
      return `<table role="presentation" cellpadding="0" cellspacing="0" style="margin:4px 0 18px;border-left:3px solid #E0980F">${block.rows
        .map(
          ({ label, value }) =>
            `<tr><td style="${font}font-size:13px;color:#5B5470;padding:3px 14px 3px 14px;vertical-align:top">${escapeHtml(label)}</td>` +
            `<td style="${font}font-size:15px;color:${ink};padding:3px 0;font-weight:bold">${escapeHtml(value)}</td></tr>`,
        )
        .join('')}</table>`
    case 'signature':
      return `<p style="${font}font-size:14px;line-height:1.5;margin:18px 0 0;color:#5B5470">${block.lines.map(escapeHtml).join('<br>')}</p>`
  }
}

/** The HTML part: one table, inlined styles, nothing loaded from outside. */
export function renderHtml(letter: MergedLetter): string {
  const body = letter.blocks.map(htmlBlock).join('\n')
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(letter.subject)}</title></head>
<body style="margin:0;padding:0;background:#F6F4F9">
<table role="presentation" width="100%" cellpadding="0" cellspacing="0" style="background:#F6F4F9"><tr><td align="center" style="padding:24px 12px">
<table role="presentation" width="100%" cellpadding="0" cellspacing="0" style="max-width:600px;background:#FFFFFF;border-top:4px solid #5A2D6E"><tr><td align="left" style="padding:28px 28px 32px">
${body}
</td></tr></table>
</td></tr></table>
</body></html>
`
}

const plainText = (content: readonly MergedText[]) => content.map(({ text }) => text).join('')

function textBlock(block: MergedBlock): string {
  switch (block.kind) {
    case 'heading':
    case 'paragraph':
      return plainText(block.content)
    case 'divider':
      return '-'.repeat(40)
    case 'facts': {
      const width = Math.max(0, ...block.rows.map(({ label }) => label.length))
      return block.rows.map(({ label, value }) => `${`${label}:`.padEnd(width + 2)}${value}`).join('\n')
    }
    case 'signature':
      return block.lines.join('\n')
  }
}

/** The plain-text part, saying the same in the same order. */
export function renderText(letter: MergedLetter): string {
  return `${letter.blocks.map(textBlock).join('\n\n')}\n`
}
