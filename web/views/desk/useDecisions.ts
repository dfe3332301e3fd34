import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { ApiProblem, newCommandId } from '../../app/api.ts'

/** For so long a decision can be taken back before it becomes real, in milliseconds. */
export const takeBackMs = 5000

/** A decision about one or several things on the desk. */
export interface Decision {
  /** What it is about: these leave the list at once. */
  readonly ids: readonly string[]
  /** What it does, in words. */
  readonly what: string
  /** Makes it real, under an id that stays the same however often it is tried. Returns what could not be done. */
  readonly carryOut: (commandId: string) => Promise<string | null>
}

interface Pending extends Decision {
  readonly commandId: string
}

export interface Decisions {
  /** Decisions that are not real yet. */
  readonly pending: readonly Pending[]
  /** What became real last, and cannot be taken back any more. */
  readonly settled: string | null
  readonly problem: string | null
  readonly decide: (decision: Decision) => void
  readonly takeBack: (commandId: string) => void
  /** Makes everything real now. */
  readonly flush: () => void
}

async function problemOf(one: Pending): Promise<string | null> {
  try {
    return await one.carryOut(one.commandId)
  } catch (fault) {
    return `“${one.what}” was not done: ${fault instanceof ApiProblem ? fault.details.detail : String(fault)}`
  }
}

/**
 * Decisions become real a few seconds after they were made, or at once when the page is left; until then they can be
 * taken back. The same command id is used however often one is sent.
 */
export function useDecisions(): Decisions {
  const client = useQueryClient()
  const [pending, setPending] = useState<readonly Pending[]>([])
  const [settled, setSettled] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const timers = useRef(new Map<string, ReturnType<typeof setTimeout>>())
  const waiting = useRef(new Map<string, Pending>())
  const makeReal = useCallback(
    async (one: Pending) => {
      timers.current.delete(one.commandId)
      waiting.current.delete(one.commandId)
      const fault = await problemOf(one)
      if (fault === null) setSettled(one.what)
      else setProblem(fault)
      await client.invalidateQueries()
      setPending((all) => all.filter(({ commandId }) => commandId !== one.commandId))
    },
    [client],
  )
  const flush = useCallback(() => {
    timers.current.forEach((timer) => clearTimeout(timer))
    const left = [...waiting.current.values()]
    timers.current.clear()
    left.forEach((one) => void makeReal(one))
  }, [makeReal])
  useEffect(() => {
    window.addEventListener('pagehide', flush)
    return () => {
      window.removeEventListener('pagehide', flush)
      flush()
    }
  }, [flush])
  return {
    pending,
    settled,
    problem,
    flush,
    decide(decision) {
      const isDecided = [...waiting.current.values()].some(({ ids }) =>
        ids.some((id) => decision.ids.includes(id)),
      )
      if (isDecided) return
      const one: Pending = { ...decision, commandId: newCommandId() }
      setProblem(null)
      waiting.current.set(one.commandId, one)
      timers.current.set(
        one.commandId,
        setTimeout(() => void makeReal(one), takeBackMs),
      )
      setPending((all) => [...all, one])
    },
    takeBack(commandId) {
      // Too late: it is on its way, and says so when it is real.
      if (!waiting.current.has(commandId)) return
      clearTimeout(timers.current.get(commandId))
      timers.current.delete(commandId)
      waiting.current.delete(commandId)
      setPending((all) => all.filter((one) => one.commandId !== commandId))
    },
  }
}
