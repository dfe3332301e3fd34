/** Whose message it is, and who gets it. */
export interface Addressed {
  readonly clientName: string
  /** Empty: it goes to nobody. */
  readonly recipientName: string
  /** Whether the client's own contact gets it, not a colleague or another address. */
  readonly isToClient: boolean
}

/**
 * Who gets a message: `Oona Siltanen`, `Ilse Thornquist for Oona Siltanen`. Where the client stands above already, only
 * who is somebody else; empty: nothing is to be said.
 */
export function toWhom({ clientName, recipientName, isToClient }: Addressed, isClientKnown = false): string {
  const name = recipientName === '' ? clientName : recipientName
  if (name === clientName) return isClientKnown ? '' : clientName
  if (isClientKnown) return name
  return isToClient ? `${name}, ${clientName}` : `${name} for ${clientName}`
}
