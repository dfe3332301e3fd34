import { field, words } from '#core/letters/authoring.ts'
import type { Letter } from '#core/model/letter.ts'
import { greeting, gruss, text, passage, button, letter } from './parts.ts'

const theDay: readonly Letter[] = [
  letter(
    'threehours',
    'Three hours to go',
    'the day',
    words`See you ${field('booking.dayFromSending')} at ${field('booking.time')}`,
    [
      text(
        greeting,
        words`not long now: ${field('booking.service')}, ${field('booking.dayFromSending')} at ${field('booking.time')}, ${field('booking.place')}.`,
        words`If you are late, call ${field('business.phone')}.`,
      ),
      passage('ps_way'),
    ],
  ),
  letter('missed', 'We missed you', 'the day', words`We missed you at ${field('booking.time')}`, [
    text(
      greeting,
      words`we waited for you at ${field('booking.place')} and had to start without you. Is everything all right?`,
      words`Please call ${field('person.firstName')} at ${field('business.phone')}: we find another day.`,
    ),
  ]),
]

const after: readonly Letter[] = [
  letter('found', 'Something stayed in the basket', 'after', words`Did you leave something with us?`, [
    text(
      greeting,
      words`after your flight on ${field('booking.shortDate')} something was still in the basket. Answer with a word about what you miss, and it travels to you by post.`,
    ),
  ]),
  letter('photos', 'Your photos are there', 'after', words`Your photos of ${field('booking.shortDate')}`, [
    text(
      greeting,
      words`the photos of your flight are ready. They stay where they are for 60 days, and they are yours to keep and to share.`,
    ),
    button('See the photos', 'https://thistledown-aloft.example/photos'),
  ]),
  letter('review', 'How was it?', 'after', words`How was it up there?`, [
    text(
      greeting,
      words`you were with us on ${field('booking.date')}. If you liked it, a few words help others to dare it as well; if not, please tell ${field('person.firstName')} by an answer.`,
    ),
    button('Write a few words', 'https://thistledown-aloft.example/words'),
  ]),
  letter(
    'danke',
    'Danke fürs Mitfahren',
    'after',
    words`Danke fürs Mitfahren`,
    [
      text(
        gruss,
        words`vielen Dank für die gemeinsame Fahrt am ${field('booking.date')}. Wir hoffen, der Blick von oben bleibt Ihnen lange in Erinnerung.`,
      ),
    ],
    { language: 'de' },
  ),
]

const later: readonly Letter[] = [
  letter(
    'anniversary',
    'A year ago you flew',
    'later',
    words`Once up there, always a little up there`,
    [
      text(
        greeting,
        words`a year ago you were up there with us. Whoever comes a second time sits at the side with the view, if they like.`,
      ),
    ],
    { class: 'promotional' },
  ),
  letter(
    'birthday',
    'For your birthday',
    'later',
    words`All the best, ${field('contact.firstName', 'and good wind')}`,
    [text(greeting, words`all of us wish you a year with good wind and clear views.`)],
  ),
  letter(
    'season',
    'The season begins',
    'later',
    words`The season begins`,
    [
      text(
        greeting,
        words`from the first of April the balloons are out again. The early mornings are the clearest ones; they go first.`,
      ),
      button('See the days', 'https://thistledown-aloft.example/days'),
    ],
    { class: 'promotional' },
  ),
]

/** The letters of the day and of what comes after it. */
export const fromTheDayOn: readonly Letter[] = [...theDay, ...after, ...later]
