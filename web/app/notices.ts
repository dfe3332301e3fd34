import { useSyncExternalStore } from 'react'

/* Few pages ever say something in passing: what shows it is fetched when there is something to show. */

let isWanted = false
const listeners = new Set<() => void>()

/** Says something in passing, at the edge of the page. */
export async function notify(message: string) {
  isWanted = true
  listeners.forEach((listener) => listener())
  const { notifications } = await import('@mantine/notifications')
  notifications.show({ message })
}

/** Whether anything has been said in passing. */
export function useHasNotices(): boolean {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => void listeners.delete(listener)
    },
    () => isWanted,
  )
}
