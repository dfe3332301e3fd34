/** Where the quoted mail begins: the line above it that mail programs write, in two languages. */
const introductions = [
  /^\s*(on\b.{4,120}\bwrote|am\b.{4,120}\bschrieb\b.{0,80}|le\b.{4,120}\ba écrit)\s*:\s*$/iu,
  /^\s*-{2,}\s*(original message|ursprüngliche nachricht|forwarded message|weitergeleitete nachricht|original-nachricht).*$/iu,
  /^\s*(begin forwarded message|anfang der weitergeleiteten nachricht)\s*:?\s*$/iu,
  /^\s*_{8,}\s*$/u,
]

/** `From: …` or `Von: …` with a further such line under it: a header that was quoted. */
const quotedHeader = /^\s*\*?(from|von)\s*:\*?\s.+$/iu
const furtherHeader = /^\s*\*?(sent|date|to|subject|gesendet|datum|an|betreff)\s*:\*?/iu

/** RFC 3676 4.3: the line above a signature; and what telephones write. */
const signature = /^(-- ?|sent from my .{2,40}|von meinem .{2,40} gesendet|gesendet von .{2,40})$/iu

/** An introduction that was wrapped over two lines. */
const startsIntroduction = /^\s*(on|am)\b.{4,120}$/iu
const endsIntroduction = /\b(wrote|schrieb\b.{0,80})\s*:\s*$/iu

function cutAt(lines: readonly string[]): number {
  const index = lines.findIndex((line, at) => {
    const next = lines[at + 1] ?? ''
    if (introductions.some((words) => words.test(line))) return true
    if (quotedHeader.test(line) && furtherHeader.test(next)) return true
    return startsIntroduction.test(line) && endsIntroduction.test(next)
  })
  return index < 0 ? lines.length : index
}

/** What somebody wrote themselves in a mail: without what they quote and without their signature. */
export function ownWordsOf(text: string): string {
  const lines = text.replace(/\r\n?/g, '\n').split('\n')
  const above = lines.slice(0, cutAt(lines)).filter((line) => !/^\s*>/u.test(line))
  const end = above.findIndex((line) => signature.test(line.trimEnd()))
  const own = (end < 0 ? above : above.slice(0, end))
    .join('\n')
    .replace(/\n{3,}/g, '\n\n')
    .trim()
  return own
}
