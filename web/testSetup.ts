import { TextDecoder, TextEncoder } from 'node:util'

/** What jsdom lacks and Mantine or the router need. */
Object.assign(globalThis, { TextEncoder, TextDecoder })
window.matchMedia = (query: string) =>
  ({
    matches: false,
    media: query,
    onchange: null,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
    dispatchEvent: () => false,
  }) as unknown as MediaQueryList
