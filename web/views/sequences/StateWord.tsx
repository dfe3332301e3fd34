import type { Sequence } from '#core/model/sequence.ts'

const words: Readonly<Record<Sequence['state'], string>> = {
  draft: '◌ draft',
  live: '● live',
  paused: '‖ paused',
}

/** Whether a sequence is at work, by shape and word. */
export function StateWord({ state }: { state: Sequence['state'] }) {
  return <b>{words[state]}</b>
}
