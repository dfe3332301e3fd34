/** The code and the words of what was thrown, whatever it is. */
export interface Thrown {
  readonly code: string
  readonly message: string
}

/** What was thrown at some work with files, in its parts; no code: empty. */
export function thrownIn(fault: unknown): Thrown {
  const { code, message } = (fault ?? {}) as { readonly code?: unknown; readonly message?: unknown }
  return {
    code: typeof code === 'string' ? code : '',
    message: typeof message === 'string' ? message : String(fault),
  }
}
