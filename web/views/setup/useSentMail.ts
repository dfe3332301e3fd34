import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ApiProblem, call, newCommandId, type Answer, type Of } from '../../app/api.ts'
import { base64Of } from '../../parts/base64.ts'
import { mailboxParts } from './mailboxParts.ts'

export type Compared = Answer<Of<'compareSent'>>

const nothing: Compared = { noted: 0, known: 0, unknown: [], unknownCount: 0, others: 0 }
const mostListed = 200

const together = (one: Compared, other: Compared): Compared => ({
  noted: one.noted + other.noted,
  known: one.known + other.known,
  unknown: [...one.unknown, ...other.unknown].slice(0, mostListed),
  unknownCount: one.unknownCount + other.unknownCount,
  others: one.others + other.others,
})

interface Comparing {
  /** Null: nothing was compared yet. */
  readonly compared: Compared | null
  /** How much of the file was read, from 0 to 1; null: nothing is under way. */
  readonly part: number | null
  readonly problem: ApiProblem | null
}

/** Compares a file of sent mail of any size, piece by piece: what was noted stays noted, and the file can be given again. */
export function useSentMail() {
  const client = useQueryClient()
  const [state, setState] = useState<Comparing>({ compared: null, part: null, problem: null })
  const compare = async (file: File) => {
    let compared = nothing
    setState({ compared: null, part: 0, problem: null })
    try {
      for await (const { bytes, done } of mailboxParts(file)) {
        const body = { commandId: newCommandId(), base64: base64Of(bytes) }
        compared = together(compared, await call('compareSent', { body }))
        setState({ compared: null, part: done / file.size, problem: null })
      }
      setState({ compared, part: null, problem: null })
    } catch (fault) {
      if (!(fault instanceof ApiProblem)) throw fault
      setState({ compared, part: null, problem: fault })
    }
    void client.invalidateQueries()
  }
  return { ...state, compare }
}
