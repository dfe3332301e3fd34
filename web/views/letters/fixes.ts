import type { Fix, LetterProblem } from '#core/letters/problems.ts'
import { freshField } from '#core/letters/fieldList.ts'
import type { FieldName, Inline, LetterContent, MissingRule, Section } from '#core/model/letter.ts'

type Change = (nodes: readonly Inline[]) => Inline[]

/** The first place where a text stands gets something else in its stead. */
function replaced(text: string, by: Inline | string): Change {
  return (nodes) => {
    let isDone = false
    return nodes.flatMap((node): Inline[] => {
      if (isDone || node.kind !== 'text' || !node.text.includes(text)) return [node]
      isDone = true
      const at = node.text.indexOf(text)
      const before = node.text.slice(0, at)
      const after = node.text.slice(at + text.length)
      return [
        ...(before === '' ? [] : [{ ...node, text: before }]),
        ...(by === '' ? [] : [typeof by === 'string' ? { ...node, text: by } : by]),
        ...(after === '' ? [] : [{ ...node, text: after }]),
      ]
    })
  }
}

function withRule(field: FieldName, rule: MissingRule): Change {
  return (nodes) =>
    nodes.map((node) =>
      node.kind === 'field' && node.field === field && node.ifMissing.kind === 'undecided'
        ? { ...node, ifMissing: rule }
        : node,
    )
}

function inSection(section: Section, change: Change): Section {
  switch (section.kind) {
    case 'heading':
      return { ...section, content: change(section.content) }
    case 'text':
      return { ...section, paragraphs: section.paragraphs.map(change) }
    case 'button':
      return { ...section, label: change(section.label) }
    case 'columns':
      return { ...section, left: section.left.map(change), right: section.right.map(change) }
    default:
      return section
  }
}

/** Something changed where it stands: in the general text, and in that of translations, services and clients. */
function atPlace(content: LetterContent, place: LetterProblem['place'], change: Change): LetterContent {
  switch (place.in) {
    case 'subject':
    case 'preheader': {
      const { in: which } = place
      const variants = content.variants.map((one) => ({ ...one, [which]: one[which] && change(one[which]) }))
      return { ...content, [which]: change(content[which]), variants }
    }
    case 'letter':
      return content
    case 'section': {
      const changed = (sections: readonly Section[]) =>
        sections.map((one) => (one.id === place.id ? inSection(one, change) : one))
      const variants = content.variants.map((one) => ({ ...one, sections: changed(one.sections) }))
      return { ...content, sections: changed(content.sections), variants }
    }
  }
}

/** A section put in where it belongs: before a signature that ends the letter, else at the end. */
function withSection(content: LetterContent, section: Section): LetterContent {
  const { sections } = content
  const last = sections.at(-1)
  const at = last?.kind === 'signature' ? sections.length - 1 : sections.length
  return { ...content, sections: sections.toSpliced(at, 0, section) }
}

function freshId({ sections }: LetterContent): string {
  for (let count = 1; ; count += 1) {
    const id = `added-${count}`
    if (!sections.some((one) => one.id === id)) return id
  }
}

/** A letter with a problem seen to. */
export function fixed(content: LetterContent, place: LetterProblem['place'], fix: Fix): LetterContent {
  switch (fix.kind) {
    case 'replace text by field': {
      return atPlace(content, place, replaced(fix.text, freshField(fix.field)))
    }
    case 'replace text':
      return atPlace(content, place, replaced(fix.text, fix.by))
    case 'add own word':
      return content
    case 'set missing rule':
      return atPlace(content, place, withRule(fix.field, fix.rule))
    case 'add section':
      return withSection(content, { id: freshId(content), kind: fix.section })
    case 'add passage':
      return withSection(content, { id: freshId(content), kind: 'passage', passageId: fix.passageId })
    case 'make promotional':
      return { ...content, class: 'promotional' }
  }
}
