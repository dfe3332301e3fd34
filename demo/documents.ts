import { field, words } from '#core/letters/authoring.ts'
import type { SignableDocument } from '#core/model/document.ts'
import { ownField, type Inline } from '#core/model/letter.ts'

const plain = { language: 'en', isActive: true, revision: 1 } as const
const heading = (content: Inline[]) => ({ kind: 'heading' as const, content })
const text = (content: Inline[]) => ({ kind: 'text' as const, content })

export const charterAgreement: SignableDocument = {
  ...plain,
  id: 'dc_charter',
  name: 'Charter agreement',
  consent: 'I have read this agreement and agree to it.',
  paragraphs: [
    text(words`Between ${field('business.postalAddress')} and ${field('contact.fullName')}.`),
    heading(words`What is flown`),
    text(
      words`A balloon with its pilot and crew for ${field('enquiry.what')}, on ${field('enquiry.wishedDate')}, for ${field('enquiry.partySize')}. Time of day: ${field(ownField('Morning or evening?'), 'as agreed')}.`,
    ),
    heading(words`Wind and weather`),
    text(
      words`The pilot alone decides whether it is flown, up to the last minute. A flight that is called off is flown on another day, or the deposit is paid back.`,
    ),
    heading(words`On the meadow`),
    text(
      words`Everybody can climb into a basket as high as a kitchen table, wears flat shoes, and lends a hand when the balloon is packed.`,
    ),
  ],
}

/** What clients sign. */
export const documents: readonly SignableDocument[] = [
  charterAgreement,
  {
    ...plain,
    id: 'dc_photographs',
    name: 'Photographs of your flight',
    consent: 'You may show these photographs.',
    paragraphs: [
      text(
        words`${field('business.name')} takes photographs on every flight. You get all of them; with your name under this, we may show some on our web page and on paper.`,
      ),
      text(words`You can take that back at any time by a word to us; what is printed by then stays printed.`),
    ],
  },
]
