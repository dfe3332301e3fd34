import { field, words } from '#core/letters/authoring.ts'
import type { Letter } from '#core/model/letter.ts'

const greeting = words`Hello ${field('contact.firstName', 'and good day')},`

/** The letters of the demo. */
export const letters: readonly Letter[] = [
  {
    id: 'lt_booked',
    name: 'Your flight is booked',
    moment: 'booked',
    version: 1,
    subject: words`${field('booking.service')}: ${field('booking.date')}, ${field('booking.time')}`,
    sections: [
      { kind: 'heading', content: words`It is booked, and we are looking forward to it.` },
      {
        kind: 'text',
        paragraphs: [greeting, words`your place in the basket is kept. Here is everything in one glance:`],
      },
      { kind: 'facts' },
      {
        kind: 'text',
        paragraphs: [
          words`Wind and weather have the last word with us. If we have to find another time, you hear from us as early as we know it ourselves.`,
          words`Up to 24 hours before the start you can move or cancel free of charge; after that we charge half the price. A call is enough: ${field('business.phone')}.`,
        ],
      },
      { kind: 'signature' },
    ],
  },
  {
    id: 'lt_wear',
    name: 'What to wear up there',
    moment: 'before',
    version: 1,
    subject: words`${field('booking.service')} ${field('booking.dayFromSending')}: what to wear`,
    sections: [
      {
        kind: 'text',
        paragraphs: [
          greeting,
          words`${field('booking.dayFromSending')}, ${field('booking.date')}, we meet at ${field('booking.time')} at ${field('booking.place')}.`,
          words`It is about eight degrees cooler up there at first, then the burner warms your head. Bring flat shoes that may get wet, long trousers and a hat. Gloves are with us.`,
        ],
      },
      { kind: 'facts' },
      { kind: 'signature' },
    ],
  },
  {
    id: 'lt_flightcall',
    name: 'The flight call',
    moment: 'before',
    version: 1,
    subject: words`We fly ${field('booking.dayFromSending')} at ${field('booking.time')}`,
    sections: [
      { kind: 'heading', content: words`The sky looks good: we fly.` },
      {
        kind: 'text',
        paragraphs: [
          greeting,
          words`we meet ${field('booking.dayFromSending')} at ${field('booking.time')} at ${field('booking.place')}. Please be there ten minutes early; the balloon does not wait once it is filled.`,
          words`Should anything come up, call ${field('person.name')} at ${field('business.phone')}, also at night.`,
        ],
      },
      { kind: 'facts' },
      { kind: 'signature' },
    ],
  },
  {
    id: 'lt_threehours',
    name: 'Three hours to go',
    moment: 'the day',
    version: 1,
    subject: words`See you ${field('booking.dayFromSending')} at ${field('booking.time')}`,
    sections: [
      {
        kind: 'text',
        paragraphs: [
          greeting,
          words`not long now: ${field('booking.service')}, ${field('booking.dayFromSending')} at ${field('booking.time')}, ${field('booking.place')}.`,
          words`There is room for cars behind the shed. If you are late, call ${field('business.phone')}.`,
        ],
      },
      { kind: 'signature' },
    ],
  },
]
