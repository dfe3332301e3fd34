/** A text as it is compared with what somebody types: without accents, in small letters. */
export function folded(text: string): string {
  return text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase()
}
