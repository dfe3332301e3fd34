import type { WayInPurpose } from '../model/wayIn.ts'
import type { Note } from './notes.ts'

/** A link by which somebody of the team chooses a password. */
export interface WayInFacts {
  readonly purpose: WayInPurpose
  readonly name: string
  readonly businessName: string
  /** Who invites; empty: nobody, it was asked for. */
  readonly by: string
  readonly url: string
  /** How long it leads somewhere, such as `7 days`. */
  readonly goodFor: string
}

/** What the mail with such a link says. */
export function wayInMail({ purpose, name, businessName, by, url, goodFor }: WayInFacts): Note {
  const lines: Readonly<Record<WayInPurpose, { subject: string; asks: string; otherwise: string }>> = {
    invitation: {
      subject: `Come in: ${businessName} in Vorfreude`,
      asks: `${by} has added you to the team of ${businessName}. Choose a password on this page, then you are in:`,
      otherwise: `The link is good for ${goodFor}, and once. After that ask ${by} for another.`,
    },
    'new password': {
      subject: `A new password for ${businessName} in Vorfreude`,
      asks: `Somebody, probably you, asked for a new password for ${businessName}. Choose it on this page:`,
      otherwise: `The link is good for ${goodFor}, and once. If you did not ask for it, do nothing: your password stays as it is.`,
    },
  }
  const { subject, asks, otherwise } = lines[purpose]
  return { subject, text: [`Dear ${name},`, '', asks, '', url, '', otherwise, ''].join('\n') }
}
