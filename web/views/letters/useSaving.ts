import { useDebouncedCallback } from '@mantine/hooks'
import { useEffect, useRef, useState } from 'react'
import type { LetterView } from '#core/api/letterEndpoints.ts'
import type { LetterContent } from '#core/model/letter.ts'
import { call, type ApiProblem } from '../../app/api.ts'
import { useTell } from '../../app/queries.ts'

/** How long after the last key the words are saved, in milliseconds. */
const autosaveMs = 1200

export interface Saving {
  /** Saves a little after the last change. */
  readonly save: (content: LetterContent) => void
  readonly saveNow: (content: LetterContent) => void
  readonly isDirty: boolean
  readonly isSaving: boolean
  readonly problem: ApiProblem | null
  /** Whether somebody else has saved the letter meanwhile. */
  readonly isConflict: boolean
  /** Saves these words over what was saved elsewhere; that stays in the history. */
  readonly overrule: () => void
  /** Lets these words go. */
  readonly giveUp: () => void
}

/** Asks before the page is left with words that are not saved yet. */
function useLeaveGuard(isDirty: boolean) {
  useEffect(() => {
    if (!isDirty) return
    const ask = (event: BeforeUnloadEvent) => event.preventDefault()
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [isDirty])
}

/**
 * Saves by itself, one version after the other. Where the letter was changed elsewhere it stops and says so; where the
 * server could not be reached, the next change tries again.
 */
export function useSaving({ letter }: LetterView): Saving {
  const version = useRef(letter.version)
  const waiting = useRef<LetterContent | null>(null)
  /** Sent, but it is not known whether it arrived: it goes once more, as the same command, before anything newer. */
  const unanswered = useRef<LetterContent | null>(null)
  const [isDirty, setIsDirty] = useState(false)
  const save = useTell('saveLetter')
  const isConflict = save.error?.details.code === 'changed meanwhile'

  const send = () => {
    const content = unanswered.current ?? waiting.current
    if (content === null || save.isPending) return
    if (unanswered.current === null) waiting.current = null
    unanswered.current = content
    save.mutate(
      { parameters: { id: letter.id }, body: { version: version.current, content } },
      {
        onSuccess: (answer) => {
          version.current = answer.version
          unanswered.current = null
          if (waiting.current === null) setIsDirty(false)
        },
        onError: ({ details }) => {
          if (details.status === 0) return
          unanswered.current = null
          waiting.current ??= content
        },
      },
    )
  }
  const later = useDebouncedCallback(send, { delay: autosaveMs, flushOnUnmount: true })
  useEffect(() => {
    if (save.isSuccess && waiting.current !== null) later()
  }, [save.isSuccess, later])
  useLeaveGuard(isDirty)

  const keep = (content: LetterContent) => {
    waiting.current = content
    setIsDirty(true)
    if (content.name.trim() !== '' && !isConflict) later()
  }
  const saveNow = (content: LetterContent) => {
    keep(content)
    later.flush()
  }
  const overrule = () => {
    call('letter', { parameters: { id: letter.id } }).then(
      (present) => {
        version.current = present.letter.version
        send()
      },
      // The refusal still stands on the page, and so does the button.
      () => undefined,
    )
  }
  const giveUp = () => {
    waiting.current = null
    setIsDirty(false)
    save.reset()
  }
  const { isPending: isSaving, error: problem } = save
  return { save: keep, saveNow, isDirty, isSaving, problem, isConflict, overrule, giveUp }
}
