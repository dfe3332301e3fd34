import { useSearchParams } from 'react-router'

/** What a page keeps in its address, so that it can be kept and handed on. */
export function useAddress() {
  const [search, setSearch] = useSearchParams()
  /** From the address itself: of two quick choices the second would else be made on what stood before the first. */
  const change = (by: (after: URLSearchParams) => void) => {
    const after = new URLSearchParams(window.location.search)
    by(after)
    setSearch(after, { replace: true })
  }
  return {
    search,
    change,
    /** Null takes one out. */
    set: (changes: Readonly<Record<string, string | null>>) =>
      change((after) => {
        for (const [key, value] of Object.entries(changes)) {
          if (value === null) after.delete(key)
          else after.set(key, value)
        }
      }),
    clear: () => setSearch({}),
  }
}
