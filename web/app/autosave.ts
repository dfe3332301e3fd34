import { useEffect, useSyncExternalStore } from 'react'
import { ApiProblem, newCommandId } from './api.ts'
import { queryClient } from './queries.ts'

/*
 * What is written saves itself. The words live outside the page that shows them: leaving it, coming back, loading it anew or
 * losing the connection loses none of them. One save after the other; one that was not answered goes once more as the
 * same act before anything newer.
 */

/** A kind of thing that saves itself. */
export interface Saves<Value> {
  readonly name: string
  /** Reads what was left unsaved when the page was loaded anew; throws where it cannot be read any more. */
  readonly read: (left: unknown) => Value
  /** How long after the last change it is saved, in milliseconds. */
  readonly afterMs: number
  /** What cannot be saved as it stands waits for the next change. */
  readonly canSave: (value: Value) => boolean
  /** Saves over what had a revision, and over its base where it has one; returns the revision it has then. */
  readonly save: (
    id: string,
    value: Value,
    revision: number,
    commandId: string,
    base?: string,
  ) => Promise<number>
  /** What is there at present, to be saved over all the same. */
  readonly present: (id: string) => Promise<{ readonly revision: number; readonly base?: string }>
}

/** What the server has of it, and when it said so. */
export interface Saved<Value> {
  readonly value: Value
  readonly revision: number
  /** What it is written over, where that can change without a new revision. */
  readonly base?: string
  /** Of this machine's clock. */
  readonly fetchedAt: number
}

interface State {
  readonly isDirty: boolean
  readonly isSaving: boolean
  readonly problem: ApiProblem | null
}

/** How soon a save that was not answered, or not taken just now, goes once more, in milliseconds. */
const againMs = 2000

const passes = ({ details }: ApiProblem) => details.status === 0 || details.code === 'busy'
const isConflict = (problem: ApiProblem | null) => problem?.details.code === 'changed meanwhile'

interface Sent<Value> {
  readonly value: Value
  readonly revision: number
  readonly base: string | undefined
  readonly commandId: string
}

/** What was not saved when the page was loaded anew; what was sent goes once more as the same act. */
interface Left<Value> {
  readonly revision: number
  readonly base?: string | undefined
  readonly waiting: Value | null
  readonly sent: Sent<Value> | null
}

/** One thing and what is written about it here. */
class Saver<Value> {
  value: Value
  private revision: number
  private base: string | undefined
  private answeredAt: number
  /** Counts what came from elsewhere, so that editors are made anew with it. */
  round = 0
  private waiting: Value | null = null
  private sent: Sent<Value> | null = null
  private timer: ReturnType<typeof setTimeout> | undefined
  private state: State = { isDirty: false, isSaving: false, problem: null }
  private readonly listeners = new Set<() => void>()

  constructor(
    private readonly kind: Saves<Value>,
    private readonly id: string,
    saved: Saved<Value>,
  ) {
    this.value = saved.value
    this.revision = saved.revision
    this.base = saved.base
    this.answeredAt = saved.fetchedAt
    const left = this.left()
    if (!left) return
    this.revision = left.revision
    this.base = left.base ?? this.base
    this.sent = left.sent
    this.waiting = left.waiting
    this.value = left.waiting ?? left.sent?.value ?? saved.value
    this.state = { ...this.state, isDirty: true }
    this.soon(0)
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }
  readonly snapshot = () => this.state

  /** Takes what the server has, where nothing was written here since. */
  meet(saved: Saved<Value>) {
    const isOther = saved.revision !== this.revision || saved.base !== this.base
    if (!this.state.isDirty && saved.fetchedAt > this.answeredAt && isOther) this.giveUp(saved)
  }

  keep(value: Value) {
    this.value = value
    this.waiting = value
    this.leave()
    this.become({ isDirty: true })
    if (!isConflict(this.state.problem)) this.soon(this.kind.afterMs)
  }

  readonly flush = () => {
    if (this.waiting === null && this.sent === null) return
    clearTimeout(this.timer)
    void this.send()
  }

  /** Saves this over what was saved elsewhere; what that was stays in its history, where it has one. */
  async overrule() {
    try {
      const { revision, base } = await this.kind.present(this.id)
      this.revision = revision
      this.base = base ?? this.base
    } catch {
      // The refusal still stands on the page, and so does the button.
      return
    }
    this.waiting ??= this.value
    this.become({ problem: null })
    await this.send()
  }

  /** Lets go of what was written here. */
  giveUp(saved: Saved<Value>) {
    this.end()
    this.value = saved.value
    this.revision = saved.revision
    this.base = saved.base
    this.answeredAt = saved.fetchedAt
    this.round += 1
    this.become({ isDirty: false, isSaving: false, problem: null })
  }

  /** Saves nothing more, and leaves nothing behind. */
  end() {
    clearTimeout(this.timer)
    this.waiting = null
    this.sent = null
    this.leave()
    this.state = { isDirty: false, isSaving: false, problem: null }
  }

  private soon(ms: number) {
    clearTimeout(this.timer)
    this.timer = setTimeout(() => void this.send(), ms)
  }

  private async send() {
    if (this.state.isSaving) return
    if (this.sent === null) {
      const value = this.waiting
      if (value === null || !this.kind.canSave(value)) return
      this.waiting = null
      this.sent = { value, revision: this.revision, base: this.base, commandId: newCommandId() }
      this.leave()
    }
    const { sent } = this
    this.become({ isSaving: true })
    try {
      const revision = await this.kind.save(this.id, sent.value, sent.revision, sent.commandId, sent.base)
      if (this.sent === sent) this.taken(revision)
    } catch (fault) {
      if (!(fault instanceof ApiProblem)) throw fault
      if (this.sent === sent) this.refused(fault, sent)
    }
  }

  private taken(revision: number) {
    this.sent = null
    this.revision = revision
    this.answeredAt = Date.now()
    this.leave()
    this.become({ isSaving: false, isDirty: this.waiting !== null, problem: null })
    void queryClient.invalidateQueries()
    if (this.waiting !== null) this.soon(this.kind.afterMs)
  }

  private refused(problem: ApiProblem, { value }: Sent<Value>) {
    if (passes(problem)) this.soon(againMs)
    else {
      this.sent = null
      this.waiting ??= value
      this.leave()
    }
    this.become({ isSaving: false, problem })
  }

  private become(part: Partial<State>) {
    this.state = { ...this.state, ...part }
    this.listeners.forEach((listener) => listener())
  }

  private get place() {
    return `unsaved ${this.kind.name} ${this.id}`
  }

  /** Leaves what is not saved where loading the page anew finds it. */
  private leave() {
    const { revision, base, waiting, sent } = this
    try {
      if (waiting === null && sent === null) sessionStorage.removeItem(this.place)
      else sessionStorage.setItem(this.place, JSON.stringify({ revision, base, waiting, sent }))
    } catch {
      // No room: then it is only here.
    }
  }

  private left(): Left<Value> | null {
    const { read } = this.kind
    try {
      const { revision, base, waiting, sent } = JSON.parse(
        sessionStorage.getItem(this.place) ?? '',
      ) as Left<unknown>
      return {
        revision,
        base,
        waiting: waiting === null ? null : read(waiting),
        sent: sent && { ...sent, value: read(sent.value) },
      }
    } catch {
      // Nothing was left, or by another version of this page.
      return null
    }
  }
}

export interface Autosave<Value> extends State {
  /** What stands here: written, saved, or come from elsewhere. */
  readonly value: Value
  /** Counts what came from elsewhere, so that editors are made anew with it. */
  readonly round: number
  readonly isConflict: boolean
  readonly keep: (value: Value) => void
  readonly flush: () => void
  readonly overrule: () => void
  readonly giveUp: (saved: Saved<Value>) => void
}

const forgetting = new Set<() => void>()

/** Whoever comes after somebody who signed out finds nothing of theirs. */
export function forgetUnsaved() {
  forgetting.forEach((forget) => forget())
}

/** A hook for a kind of thing that saves itself. Several pages that show one thing share what is written. */
export function createAutosave<Value>(kind: Saves<Value>) {
  const savers = new Map<string, Saver<Value>>()
  forgetting.add(() => {
    savers.forEach((saver) => saver.end())
    savers.clear()
  })
  const saverOf = (id: string, saved: Saved<Value>) => {
    const known = savers.get(id)
    if (known) return known
    const made = new Saver(kind, id, saved)
    savers.set(id, made)
    return made
  }
  return function useAutosave(id: string, saved: Saved<Value>): Autosave<Value> {
    const saver = saverOf(id, saved)
    const state = useSyncExternalStore(saver.subscribe, saver.snapshot)
    useEffect(() => saver.meet(saved))
    useEffect(() => {
      const leaving = (event: BeforeUnloadEvent) => {
        if (saver.snapshot().isDirty) event.preventDefault()
      }
      window.addEventListener('beforeunload', leaving)
      window.addEventListener('pagehide', saver.flush)
      window.addEventListener('online', saver.flush)
      return () => {
        window.removeEventListener('beforeunload', leaving)
        window.removeEventListener('pagehide', saver.flush)
        window.removeEventListener('online', saver.flush)
        saver.flush()
      }
    }, [saver])
    return {
      ...state,
      value: saver.value,
      round: saver.round,
      isConflict: isConflict(state.problem),
      keep: (value) => saver.keep(value),
      flush: saver.flush,
      overrule: () => void saver.overrule(),
      giveUp: (present) => saver.giveUp(present),
    }
  }
}
