import type { BeginningStep } from '#core/insight/beginning.ts'

interface BeginningPage {
  readonly slug: string
  /** What is there once it is done. */
  readonly word: string
}

/** The pages one goes through at the beginning, and what each is about. */
export const beginningPages: Readonly<Record<BeginningStep, BeginningPage>> = {
  business: { slug: 'hours', word: 'The business and its hours' },
  service: { slug: 'service', word: 'A service clients can book' },
  'mail account': { slug: 'mail', word: 'A mail account to send through' },
  'public address': { slug: 'address', word: 'The web address where clients reach you' },
  sequence: { slug: 'sequence', word: 'A sequence that is live, its letters read' },
  rehearsal: { slug: 'rehearsal', word: 'A rehearsal to your own address' },
  sending: { slug: 'sending', word: 'Sending switched on' },
}

export const beginningPath = (step: BeginningStep) => `/begin/${beginningPages[step].slug}`
