/** Something happened that somebody may be waiting for. Raised while nobody waits, the next wait ends at once. */
export interface Signal {
  raise(): void
  /** Ends when it is raised, or after so many milliseconds of real time. */
  raised(atMostMs: number): Promise<void>
}

export function createSignal(): Signal {
  let isRaised = false
  let wake: (() => void) | null = null
  return {
    raise() {
      isRaised = true
      wake?.()
    },
    async raised(atMostMs) {
      if (!isRaised) {
        let timer: NodeJS.Timeout | null = null
        await new Promise<void>((resolve) => {
          wake = resolve
          timer = setTimeout(resolve, atMostMs)
        })
        wake = null
        if (timer) clearTimeout(timer)
      }
      isRaised = false
    },
  }
}
