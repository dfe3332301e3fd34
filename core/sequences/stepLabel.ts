import type { Letter } from '../model/letter.ts'
import type { Sequence } from '../model/sequence.ts'
import type { PlainStep } from '../model/step.ts'
import { inHouseWords } from './inHouseWords.ts'

/** What a step does, in a few words for lists. `letterId` is the letter that counts for a mail. */
export function stepLabel(
  step: PlainStep,
  letterId: string | null,
  {
    letters,
    sequences,
  }: {
    readonly letters: readonly Pick<Letter, 'id' | 'name'>[]
    readonly sequences: readonly Pick<Sequence, 'id' | 'name'>[]
  },
): string {
  switch (step.kind) {
    case 'mail':
      return letters.find(({ id }) => id === letterId)?.name ?? letterId ?? 'Letter'
    case 'text message':
      return 'Text message'
    case 'note to staff':
      return `Note to staff: ${step.about}`
    case 'task':
    case 'tag':
    case 'stage':
    case 'status':
    case 'date stamp':
      return inHouseWords(step)
    case 'list':
      return step.joins ? `Join the list “${step.list}”` : `Leave the list “${step.list}”`
    case 'sequence': {
      const name = sequences.find(({ id }) => id === step.sequenceId)?.name ?? step.sequenceId
      return step.starts ? `Start the sequence “${name}”` : `Stop the sequence “${name}”`
    }
    case 'web call':
      return `Call ${new URL(step.url).host}`
  }
}
