import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { SendDecision } from '#core/engine/sendCommands.ts'
import { ApiProblem, call, newCommandId } from '../../app/api.ts'

/** For so long a decision can be taken back before it becomes real, in milliseconds. */
export const takeBackMs = 5000

export interface Pending {
  readonly sendId: string
  readonly decision: SendDecision
  readonly what: string
  readonly commandId: string
}

export interface Decisions {
  /** Decisions that are not real yet. */
  readonly pending: readonly Pending[]
  readonly problem: string | null
  readonly decide: (sendId: string, decision: SendDecision, what: string) => void
  readonly takeBack: (sendId: string) => void
}

const bodyOf = ({ commandId, decision }: Pending) => ({ commandId, decision })

/**
 * Decisions become real a few seconds after they were made, or at once when the page is left; until then they can be
 * taken back. The same command id is used however often one is sent.
 */
export function useDecisions(): Decisions {
  const client = useQueryClient()
  const [pending, setPending] = useState<readonly Pending[]>([])
  const [problem, setProblem] = useState<string | null>(null)
  const timers = useRef(new Map<string, ReturnType<typeof setTimeout>>())
  const waiting = useRef(new Map<string, Pending>())
  const carryOut = useCallback(
    async (one: Pending) => {
      timers.current.delete(one.sendId)
      waiting.current.delete(one.sendId)
      try {
        await call('decideSend', { parameters: { id: one.sendId }, body: bodyOf(one) })
      } catch (fault) {
        setProblem(
          `“${one.what}” was not done: ${fault instanceof ApiProblem ? fault.details.detail : String(fault)}`,
        )
      }
      await client.invalidateQueries()
      setPending((all) => all.filter(({ commandId }) => commandId !== one.commandId))
    },
    [client],
  )
  const flush = useCallback(() => {
    timers.current.forEach((timer) => clearTimeout(timer))
    const left = [...waiting.current.values()]
    timers.current.clear()
    left.forEach((one) => void carryOut(one))
  }, [carryOut])
  useEffect(() => {
    window.addEventListener('pagehide', flush)
    return () => {
      window.removeEventListener('pagehide', flush)
      flush()
    }
  }, [flush])
  return {
    pending,
    problem,
    decide(sendId, decision, what) {
      if (waiting.current.has(sendId)) return
      const one: Pending = { sendId, decision, what, commandId: newCommandId() }
      setProblem(null)
      waiting.current.set(sendId, one)
      timers.current.set(
        sendId,
        setTimeout(() => void carryOut(one), takeBackMs),
      )
      setPending((all) => [...all, one])
    },
    takeBack(sendId) {
      clearTimeout(timers.current.get(sendId))
      timers.current.delete(sendId)
      waiting.current.delete(sendId)
      setPending((all) => all.filter((one) => one.sendId !== sendId))
    },
  }
}
