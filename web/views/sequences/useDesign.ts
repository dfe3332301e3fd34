import { useDebouncedCallback } from '@mantine/hooks'
import { useEffect, useRef, useState } from 'react'
import type { SequenceView } from '#core/api/sequenceEndpoints.ts'
import type { SequenceDesign } from '#core/engine/rollout.ts'
import { call, type ApiProblem } from '../../app/api.ts'
import { useTell } from '../../app/queries.ts'

/** How long after the last change a design is kept, in milliseconds. */
const keepAfterMs = 900
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

interface History {
  readonly past: readonly SequenceDesign[]
  readonly present: SequenceDesign
  readonly future: readonly SequenceDesign[]
  /** What the last change was called; null: nothing that a further one joins. */
  readonly name: string | null
}

/** Keeps the design on the server a little after the last change, one version after the other. */
function useKeeping(id: string, revisionAtFirst: number) {
  const revision = useRef(revisionAtFirst)
  const waiting = useRef<SequenceDesign | null>(null)
  const [isDirty, setIsDirty] = useState(false)
  const save = useTell('saveDesign')
  const isConflict = save.error?.details.code === 'changed meanwhile'
  const send = () => {
    const design = waiting.current
    if (design === null || save.isPending) return
    waiting.current = null
    save.mutate(
      { parameters: { id }, body: { revision: revision.current, design } },
      {
        onSuccess: (answer) => {
          revision.current = answer.revision
          if (waiting.current === null) setIsDirty(false)
        },
        onError: () => {
          waiting.current ??= design
        },
      },
    )
  }
  const later = useDebouncedCallback(send, { delay: keepAfterMs, flushOnUnmount: true })
  useEffect(() => {
    if (save.isSuccess && waiting.current !== null) later()
  }, [save.isSuccess, later])
  useEffect(() => {
    if (!isDirty) return
    const ask = (event: BeforeUnloadEvent) => event.preventDefault()
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [isDirty])
  const keep = (design: SequenceDesign) => {
    waiting.current = design
    setIsDirty(true)
    if (!isConflict && design.name.trim() !== '') later()
  }
  const overrule = () => {
    call('sequence', { parameters: { id } }).then(
      (present) => {
        revision.current = present.design?.revision ?? 0
        save.reset()
        send()
      },
      // The refusal still stands on the page, and so does the button.
      () => undefined,
    )
  }
  return { keep, isDirty, problem: save.error, isConflict, overrule }
}

/** A design in the hands of somebody: changed, undone, kept by itself. */
export function useDesign(view: SequenceView): Designing {
  const [history, setHistory] = useState<History>({
    past: [],
    present: view.design?.design ?? inEffect(view),
    future: [],
    name: null,
  })
  const keeping = useKeeping(view.sequence.id, view.design?.revision ?? 0)
  const { past, present, future } = history
  const goTo = (next: History) => {
    setHistory(next)
    keeping.keep(next.present)
  }
  const before = past.at(-1)
  const [after] = future
  return {
    design: present,
    change(next, name) {
      const joins = name !== undefined && name === history.name
      goTo({
        past: joins ? past : [...past, present].slice(-mostUndos),
        present: next,
        future: [],
        name: name ?? null,
      })
    },
    undo() {
      if (before) goTo({ past: past.slice(0, -1), present: before, future: [present, ...future], name: null })
    },
    redo() {
      if (after) goTo({ past: [...past, present], present: after, future: future.slice(1), name: null })
    },
    canUndo: before !== undefined,
    canRedo: after !== undefined,
    isDirty: keeping.isDirty,
    problem: keeping.problem,
    isConflict: keeping.isConflict,
    overrule: keeping.overrule,
  }
}
