import { useState } from 'react'
import type { SequenceView } from '#core/api/sequenceEndpoints.ts'
import { sequenceDesign, type SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { call, type ApiProblem } from '../../app/api.ts'
import { createAutosave } from '../../app/autosave.ts'

const mostUndos = 100

export interface Designing {
  readonly design: SequenceDesign
  /** Changes it. Changes under one name that follow each other are undone together. */
  readonly change: (next: SequenceDesign, name?: string) => void
  readonly undo: () => void
  readonly redo: () => void
  readonly canUndo: boolean
  readonly canRedo: boolean
  readonly isDirty: boolean
  readonly problem: ApiProblem | null
  readonly isConflict: boolean
  /** Keeps this over what was kept elsewhere. */
  readonly overrule: () => void
}

export function inEffect({ sequence, version }: SequenceView): SequenceDesign {
  const { start, steps, stops } = version
  return { name: sequence.name, start, steps, stops }
}

/** A design, kept on the server by itself, one version after the other. */
const useKeeping = createAutosave({
  name: 'design',
  read: (left) => sequenceDesign.parse(left),
  afterMs: 900,
  canSave: ({ name }) => name.trim() !== '',
  async save(id, design, revision, commandId) {
    return (await call('saveDesign', { parameters: { id }, body: { commandId, revision, design } })).revision
  },
  present: async (id) => ({
    revision: (await call('sequence', { parameters: { id } })).design?.revision ?? 0,
  }),
})

/** What was done to a design here, to undo it and do it again. */
interface History {
  readonly past: readonly SequenceDesign[]
  readonly future: readonly SequenceDesign[]
  /** What the last change was called; null: nothing that a further one joins. */
  readonly name: string | null
}

const nothingDone: History = { past: [], future: [], name: null }

/** A design in the hands of somebody: changed, undone, kept by itself. */
export function useDesign(view: SequenceView, fetchedAt: number): Designing {
  const keeping = useKeeping(view.sequence.id, {
    value: view.design?.design ?? inEffect(view),
    revision: view.design?.revision ?? 0,
    base: `${view.sequence.state === 'draft' ? 'draft' : 'live'} ${view.version.version}`,
    fetchedAt,
  })
  // What came from elsewhere has no history here.
  const [done, setDone] = useState({ round: keeping.round, history: nothingDone })
  const history = done.round === keeping.round ? done.history : nothingDone
  const present = keeping.value
  const { past, future } = history
  const goTo = (next: SequenceDesign, after: History) => {
    setDone({ round: keeping.round, history: after })
    keeping.keep(next)
  }
  const before = past.at(-1)
  const [after] = future
  return {
    design: present,
    change(next, name) {
      const joins = name !== undefined && name === history.name
      goTo(next, {
        past: joins ? past : [...past, present].slice(-mostUndos),
        future: [],
        name: name ?? null,
      })
    },
    undo() {
      if (before) goTo(before, { past: past.slice(0, -1), future: [present, ...future], name: null })
    },
    redo() {
      if (after) goTo(after, { past: [...past, present], future: future.slice(1), name: null })
    },
    canUndo: before !== undefined,
    canRedo: after !== undefined,
    isDirty: keeping.isDirty,
    problem: keeping.problem,
    isConflict: keeping.isConflict,
    overrule: keeping.overrule,
  }
}
