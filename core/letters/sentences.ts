import type { Inline } from '../model/letter.ts'

/*
 * What stands for a field while text is cut into sentences. Its value mostly begins with a capital or a figure, so after
 * a full stop it begins a sentence, as a letter without case does; after an abbreviation it does not.
 */
const beginningMark = '字'
const withinMark = '\uFFFC'

const letters = /(?:^|[\s(])(?:[a-zäöü]\.\s?)?[a-zäöü]\.\s*$|(?:^|[\s(])[a-zäöü]\.\s?[A-ZÄÖÜ]\.\s*$/u
const shortened =
  /(?:^|[\s(])(?:no|nr|tel|approx|ca|incl|inkl|zzgl|mr|mrs|ms|dr|prof|st|str|vs|etc|usw|bzw|fam|hr|fr)\.\s*$/iu

const endsInAbbreviation = (text: string) => letters.test(text) || shortened.test(text)

const markAfter = (text: string) => (endsInAbbreviation(text) ? withinMark : beginningMark)

const segmenters = new Map<string, Intl.Segmenter>()

function segmenter(language: string): Intl.Segmenter {
  const known = segmenters.get(language)
  if (known) return known
  const made = new Intl.Segmenter(language, { granularity: 'sentence' })
  segmenters.set(language, made)
  return made
}

/** A part of a text node, or a whole node, from one index of the joined text to another. */
function slice(nodes: readonly Inline[], from: number, to: number): Inline[] {
  const result: Inline[] = []
  let at = 0
  for (const node of nodes) {
    const length = node.kind === 'field' ? 1 : node.text.length
    const [start, end] = [Math.max(from, at), Math.min(to, at + length)]
    if (start < end) {
      result.push(node.kind === 'field' ? node : { ...node, text: node.text.slice(start - at, end - at) })
    }
    at += length
  }
  return result
}

/** The sentences of some words (Unicode Standard Annex 29), fields kept whole. */
export function sentencesOf(nodes: readonly Inline[], language: string): readonly (readonly Inline[])[] {
  const text = nodes.reduce(
    (before, node) => before + (node.kind === 'field' ? markAfter(before) : node.text),
    '',
  )
  const sentences: { from: number; text: string }[] = []
  for (const { index, segment } of segmenter(language).segment(text)) {
    const last = sentences.at(-1)
    if (last && endsInAbbreviation(last.text)) last.text += segment
    else sentences.push({ from: index, text: segment })
  }
  return sentences.map((one) => slice(nodes, one.from, one.from + one.text.length))
}
