import { field, optional, words, writtenLetter, type WithoutId } from '#core/letters/authoring.ts'
import { linkToField } from '#core/letters/links.ts'
import type { Inline, Letter, Section } from '#core/model/letter.ts'

const greeting = words`Hello ${field('contact.firstName', 'and good day')},`
const gruss = words`Guten Tag ${field('contact.fullName')},`

const heading = (content: Inline[]) => ({ kind: 'heading', content }) as const
const text = (...paragraphs: Inline[][]) => ({ kind: 'text', paragraphs }) as const
const passage = (passageId: string) => ({ kind: 'passage', passageId }) as const
const button = (label: string, link: string): WithoutId<Section> => ({
  kind: 'button',
  label: [{ kind: 'text', text: label }],
  link,
})
const facts = { kind: 'facts' } as const
const signature = { kind: 'signature' } as const
const calendar: Pick<Letter, 'attachments'> = { attachments: [{ kind: 'calendar' }] }

/** The words behind the subject in lists of mails. */
const previewTexts: Readonly<Record<string, Inline[]>> = {
  asked: words`It is noted; an answer comes within two working days.`,
  stillasking: words`One word is enough, and the place is kept or given back.`,
  offer: words`Up to six people, your own meadow, and the toast is with us.`,
  evening: words`What we could tick off for you.`,
  booked: words`Where, when and what to know, in one glance.`,
  moved: words`The new time, and what stays as it was.`,
  weathermove: words`A new day for it, and why.`,
  cancelled: words`What happens with your payment.`,
  voucher: words`Whoever unwraps it chooses the day.`,
  deposit: words`Due ${field('invoice.dueFromSending')}.`,
  balance: words`Due ${field('invoice.dueDate')}.`,
  wear: words`Flat shoes, long trousers, a hat: it is cooler up there.`,
  flightcall: words`Where we meet, and how the weather looks.`,
  island: words`It leaves an hour before we do.`,
  form: words`Two minutes now save ten on the meadow.`,
  threehours: words`At ${field('booking.place')}.`,
  missed: words`We waited, and would like to hear from you.`,
  found: words`A word, and it travels to you.`,
  photos: words`Yours to keep and to share, for 60 days.`,
  review: words`A few words help others to dare it.`,
  danke: words`Der Blick von oben bleibt.`,
  anniversary: words`The same month, another morning.`,
  birthday: words`From all of us at ${field('business.name')}.`,
  season: words`The first mornings are open.`,
}

type Sections = Parameters<typeof writtenLetter>[0]['sections']

function letter(
  id: string,
  name: string,
  moment: Letter['moment'],
  subject: Inline[],
  sections: Sections,
  rest: Partial<Letter> = {},
): Letter {
  const preheader = previewTexts[id] ?? []
  return writtenLetter({
    id: `lt_${id}`,
    name,
    moment,
    subject,
    preheader,
    sections: [...sections, signature],
    ...rest,
  })
}

const asked: readonly Letter[] = [
  letter('asked', 'Thank you for asking', 'asked', words`Your flight with us`, [
    text(
      greeting,
      words`thank you for asking. ${optional('enquiry.wishedDate')} is noted, and the basket is not promised to anybody else meanwhile.`,
      words`${field('person.firstName')} looks at wind, seats and season, and writes back within two working days.`,
    ),
  ]),
  letter('stillasking', 'Are you still thinking of it?', 'asked', words`Is the flight still on your mind?`, [
    text(
      greeting,
      words`you asked us about a flight, and we have not heard from each other for a while. If the plan has changed, that is fine: an answer with one word is enough.`,
      words`If it is still on your mind, ${field('person.firstName')} keeps a place for you.`,
    ),
  ]),
  letter('offer', 'The offer for a private basket', 'asked', words`A basket of your own`, [
    heading(words`A basket for you alone`),
    text(
      greeting,
      words`a private basket takes up to six people, and the pilot. You choose the meadow we start from, and the toast after the landing is with us.`,
    ),
    passage('ps_weather'),
  ]),
  letter('evening', 'What moved on today', 'asked', words`Your charter: what moved on`, [
    text(greeting, words`here is what we could tick off:`, words`${field('enquiry.progress')}`),
  ]),
]

const booked: readonly Letter[] = [
  letter(
    'booked',
    'Your flight is booked',
    'booked',
    words`${field('booking.service')}: ${field('booking.date')}, ${field('booking.time')}`,
    [
      heading(words`It is booked, and we are looking forward to it.`),
      text(greeting, words`your place in the basket is kept. Here is everything in one glance:`),
      facts,
      passage('ps_weather'),
      passage('ps_terms'),
      button('See or cancel the booking', linkToField('link.booking')),
      text(words`To move it, a call is enough: ${field('business.phone')}.`),
    ],
    {
      ...calendar,
      variants: [
        {
          scope: { of: 'language', language: 'de' },
          subject: words`${field('booking.service')}: ${field('booking.date')}, ${field('booking.time')}`,
          preheader: words`Wo, wann und was zu wissen ist, auf einen Blick.`,
          sections: [
            { id: 's0', kind: 'heading', content: words`Gebucht, und wir freuen uns darauf.` },
            {
              id: 's1',
              kind: 'text',
              paragraphs: [gruss, words`Ihr Platz im Korb ist reserviert. Das Wichtigste auf einen Blick:`],
            },
            {
              id: 's5',
              kind: 'button',
              label: words`Buchung ansehen oder absagen`,
              link: linkToField('link.booking'),
            },
            {
              id: 's6',
              kind: 'text',
              paragraphs: [words`Für einen anderen Tag genügt ein Anruf: ${field('business.phone')}.`],
            },
          ],
        },
        {
          scope: { of: 'service', serviceId: 'sv_groundschool' },
          subject: null,
          preheader: null,
          sections: [
            {
              id: 's1',
              kind: 'text',
              paragraphs: [
                greeting,
                words`your chair by the stove is kept. Here is everything in one glance:`,
              ],
            },
            { id: 's3', kind: 'text', paragraphs: [] },
          ],
        },
        {
          scope: { of: 'service', serviceId: 'sv_groundschool', language: 'de' },
          subject: null,
          preheader: null,
          sections: [
            {
              id: 's1',
              kind: 'text',
              paragraphs: [gruss, words`Ihr Platz am Ofen ist reserviert. Das Wichtigste auf einen Blick:`],
            },
            { id: 's3', kind: 'text', paragraphs: [] },
          ],
        },
      ],
    },
  ),
  letter(
    'moved',
    'Another day for your flight',
    'booked',
    words`New day: ${field('booking.date')}, ${field('booking.time')}`,
    [
      text(
        greeting,
        words`your flight has another time. It was ${optional('booking.oldDate')}, ${optional('booking.oldTime')}. What counts from here on is this:`,
      ),
      facts,
      passage('ps_terms'),
    ],
    calendar,
  ),
  letter(
    'weathermove',
    'The weather moves your flight',
    'booked',
    words`The weather moves your flight to ${field('booking.date')}`,
    [
      text(
        greeting,
        words`the wind does not want us, so we have kept ${field('booking.weekday')}, ${field('booking.shortDate')}, for you instead. Everything else stays as it is.`,
      ),
      facts,
      passage('ps_terms'),
    ],
    calendar,
  ),
  letter(
    'cancelled',
    'Your flight is cancelled',
    'booked',
    words`Cancelled: ${field('booking.service')} on ${field('booking.date')}`,
    [
      text(
        greeting,
        words`your flight of ${field('booking.date')} is cancelled, and nothing more is to be done.`,
        words`If you would like another day, choose one, or call ${field('business.phone')}.`,
      ),
      button('Choose another day', linkToField('link.again')),
      passage('ps_terms'),
    ],
    calendar,
  ),
  letter('voucher', 'Your gift voucher', 'booked', words`A flight to give away`, [
    heading(words`A flight to give away`),
    text(
      greeting,
      words`your voucher is on its way by post. Whoever unwraps it chooses the day; it never runs out.`,
    ),
    passage('ps_terms'),
  ]),
]

const money: readonly Letter[] = [
  letter('deposit', 'The deposit', 'booked', words`The deposit for your flight: ${field('invoice.amount')}`, [
    text(
      greeting,
      words`the deposit of ${field('invoice.amount')} is due ${field('invoice.dueFromSending')}, on ${field('invoice.dueDate')}.`,
      words`If it has crossed with your payment, please disregard this message.`,
    ),
    button('Pay the deposit', linkToField('link.pay')),
    passage('ps_terms'),
  ]),
  letter('balance', 'The rest of the price', 'before', words`What is still open: ${field('invoice.open')}`, [
    text(
      greeting,
      words`${field('invoice.open')} of the price is still open, due on ${field('invoice.dueDate')}.`,
    ),
    button('Pay it', linkToField('link.pay')),
    passage('ps_way'),
  ]),
]

const before: readonly Letter[] = [
  letter(
    'wear',
    'What to wear up there',
    'before',
    words`${field('booking.service')} ${field('booking.dayFromSending')}: what to wear`,
    [
      text(
        greeting,
        words`${field('booking.distanceFromSending')} we meet: ${field('booking.date')} at ${field('booking.time')}, ${field('booking.place')}.`,
      ),
      passage('ps_wear'),
      passage('ps_way'),
      facts,
    ],
  ),
  letter(
    'flightcall',
    'The flight call',
    'before',
    words`We fly ${field('booking.dayFromSending')} at ${field('booking.time')}`,
    [
      heading(words`The sky looks good: we fly.`),
      text(
        greeting,
        words`we meet ${field('booking.dayFromSending')} at ${field('booking.time')} at ${field('booking.place')}. Please be there ten minutes early; the balloon does not wait once it is filled.`,
        words`Should anything come up, call ${field('person.name')} at ${field('business.phone')}, also at night.`,
      ),
      passage('ps_way'),
      facts,
    ],
  ),
  letter('island', 'The ferry to the island', 'before', words`The ferry for ${field('booking.shortDate')}`, [
    text(
      greeting,
      words`the island flight begins with a ferry. It leaves an hour before ${field('booking.time')}; the times on the quay are those of the island.`,
    ),
    passage('ps_way'),
    facts,
  ]),
  letter(
    'form',
    'A few questions before we fly',
    'before',
    words`A few questions before ${field('booking.date')}`,
    [
      text(
        greeting,
        words`so that the basket is in balance, please tell us by an answer: the weight of everybody who comes along, and whether somebody is afraid of heights or has had an operation lately.`,
      ),
      passage('ps_way'),
    ],
  ),
]

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

/** The letters of the demo. */
export const letters: readonly Letter[] = [
  ...asked,
  ...booked,
  ...money,
  ...before,
  ...theDay,
  ...after,
  ...later,
]
