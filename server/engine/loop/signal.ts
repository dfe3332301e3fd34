/** Something happened that somebody may be waiting for. Raised while nobody waits, the next wait ends at once. */
export interface Signal {
  raise(): void
  /** Ends when it is raised, or after so many milliseconds of real time. */
  raised(atMostMs: number): Promise<void>
}

export function createSignal(): Signal {
  let isRaised = false
  let wake: () => void = () => undefined
  return {
    raise() {
      isRaised = true
      wake()
    },
    async raised(atMostMs) {
      if (!isRaised) {
        await new Promise<void>((resolve) => {
          const timer = setTimeout(resolve, atMostMs)
          wake = () => {
            clearTimeout(timer)
            resolve()
          }
        })
        wake = () => undefined
      }
      isRaised = false
    },
  }
}
