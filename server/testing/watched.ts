import type { Application } from '../engine/application.ts'

const kinds = ['one', 'all', 'run'] as const

/** Lets `meet` see every statement before it is run; ended by what is given back. */
export function watched(
  { store: { statements } }: Application,
  meet: (name: string, parameters?: object) => void,
): () => void {
  const before = { ...statements }
  for (const kind of kinds) {
    Object.assign(statements, {
      [kind]: (name: string, parameters?: object) => {
        meet(name, parameters)
        return (before[kind] as (name: string, parameters?: object) => unknown)(name, parameters)
      },
    })
  }
  return () => void Object.assign(statements, before)
}
