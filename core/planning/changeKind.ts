/** How a planned message differs between two plans. */
export type ChangeKind =
  /** It was not planned before, or not to go. */
  | 'added'
  /** It was to go and will not. */
  | 'dropped'
  /** It goes at another time. */
  | 'moved'
  /** It went already and is due once more. */
  | 'again'
  /** It goes to another address. */
  | 'changed recipient'
  /** It has another letter or other words. */
  | 'changed text'
  /** It waits for a person now, or does so no more. */
  | 'changed approval'
  /** It is planned, but does not go as things stand. */
  | 'not going'
  /** It is planned as before, and a switch, a pause or a client held back keeps it from going. */
  | 'held back'
  /** It was held back, and goes. */
  | 'released'

/** Whether a message does not go after such a change. */
export const isOff = (kind: ChangeKind): boolean =>
  kind === 'dropped' || kind === 'not going' || kind === 'held back'
