import { field, optional, words } from '#core/letters/authoring.ts'
import { linkToField } from '#core/letters/links.ts'
import { signField, type Letter } from '#core/model/letter.ts'
import { greeting, gruss, heading, text, passage, button, facts, calendar, letter } from './parts.ts'

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
  letter('silence', 'It has been a while', 'asked', words`Still thinking of the basket?`, [
    text(
      greeting,
      words`it has been a while since you asked us for a basket of your own. The mornings are long now and the valley is green; if this is a better time, one line back is enough.`,
    ),
  ]),
  letter('agreement', 'The agreement for your charter', 'asked', words`Your charter: the agreement`, [
    heading(words`On paper, so that nobody has to remember it`),
    text(
      greeting,
      words`here is what we agreed on for ${field('enquiry.what')}: the basket is yours alone, the day is ${field('enquiry.wishedDate')}, and if the wind says no we fly on another one.`,
      words`${field('person.firstName')} answers whatever is still open.`,
    ),
    button('Read it and sign', linkToField(signField('Charter agreement'))),
  ]),
  letter('unsigned', 'The agreement is still unsigned', 'asked', words`Your charter: still to be signed`, [
    text(
      greeting,
      words`the agreement for ${field('enquiry.what')} still waits for your name. Once it is there, the day is yours.`,
    ),
    button('Read it and sign', linkToField(signField('Charter agreement'))),
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

/** The letters from the first question until the day. */
export const untilTheDay: readonly Letter[] = [...asked, ...booked, ...money, ...before]
