import { field, optional, words, writtenLetter, type WithoutId } from '../letters/authoring.ts'
import type { Inline, Letter, Section } from '../model/letter.ts'

const greeting = words`Hello ${field('contact.firstName', 'and good day')},`

type Part = Inline[] | 'facts'

const section = (part: Part): WithoutId<Section> =>
  part === 'facts' ? { kind: 'facts' } : { kind: 'text', paragraphs: [part] }

/** Paragraphs and the facts of the booking, in this order, under a greeting and above a signature. */
function starter(
  id: string,
  name: string,
  moment: Letter['moment'],
  subject: Inline[],
  parts: readonly Part[],
  rest: Partial<Letter> = {},
): Letter {
  return writtenLetter({
    id: `lt_starter-${id}`,
    name,
    moment,
    subject,
    sections: [{ kind: 'text', paragraphs: [greeting] }, ...parts.map(section), { kind: 'signature' }],
    ...rest,
  })
}

/** Letters to start from, in plain words that fit any service: at least one for each moment. */
export const starterLetters: readonly Letter[] = [
  starter(
    'confirmation',
    'Your booking is confirmed',
    'booked',
    words`${field('booking.service')} on ${field('booking.date')}, ${field('booking.time')}`,
    [
      words`your booking is confirmed. Here it is once more:`,
      'facts',
      words`If something is not right, just answer this message.`,
    ],
    { attachments: [{ kind: 'calendar' }] },
  ),
  starter(
    'reminder',
    'See you soon',
    'before',
    words`${field('booking.service')}: ${field('booking.dayFromSending')} at ${field('booking.time')}`,
    [
      words`we are looking forward to seeing you ${field('booking.dayFromSending')}, ${field('booking.date')}, at ${field('booking.time')}.`,
      'facts',
    ],
  ),
  starter('asked', 'Thank you for asking', 'asked', words`Thank you for asking us`, [
    words`thank you for your enquiry. You have thought of ${optional('enquiry.wishedDate')}.`,
    words`${field('person.name')} looks after it and answers as soon as everything is clear.`,
  ]),
  starter('still', 'Are you still thinking about it?', 'asked', words`Your enquiry with us`, [
    words`some days ago you asked us. Is there anything you would like to know before you decide?`,
    words`An answer to this message is enough; ${field('person.firstName')} reads it.`,
  ]),
  starter('silence', 'It has been a while', 'asked', words`Are you still dreaming of it?`, [
    words`it has been a while since you asked us, and we have not forgotten you. If this is a better time, answer this message and we pick up where we were.`,
    words`If it is not, there is nothing you need to do.`,
  ]),
  starter('last-word', 'A last word about your enquiry', 'asked', words`Shall we close your enquiry?`, [
    words`we have not heard from you and do not want to press you. If your plans have changed, there is nothing you need to do.`,
    words`If you would still like to come, answer this message and we go on from there.`,
  ]),
  starter(
    'birthday',
    'Happy birthday',
    'any time',
    words`Happy birthday, ${field('contact.firstName', 'from all of us')}`,
    [words`all of us at ${field('business.name')} wish you a happy birthday and a good year.`],
  ),
  starter(
    'requested',
    'We have your request',
    'asked',
    words`Your request: ${field('booking.service')} on ${field('booking.date')}`,
    [
      words`thank you for your request. This is what you asked for:`,
      'facts',
      words`We look at it and answer soon. It counts when we have confirmed it.`,
    ],
  ),
  starter(
    'changed',
    'Your booking has another time',
    'booked',
    words`New time: ${field('booking.service')} on ${field('booking.date')}, ${field('booking.time')}`,
    [
      words`your booking has another time. What counts from here on is this:`,
      'facts',
      words`If the new time does not suit you, just answer this message.`,
    ],
    { attachments: [{ kind: 'calendar' }] },
  ),
  starter(
    'cancelled',
    'Your booking is cancelled',
    'booked',
    words`Cancelled: ${field('booking.service')} on ${field('booking.date')}`,
    [
      words`your booking of ${field('booking.date')}, ${field('booking.time')} is cancelled. Nothing more is to be done.`,
      words`We would be glad to see you another time; an answer to this message is enough.`,
    ],
    { attachments: [{ kind: 'calendar' }] },
  ),
  starter(
    'prepare',
    'What to bring',
    'before',
    words`Before your ${field('booking.service')}: what to bring`,
    [
      words`${field('booking.distanceFromSending')} we meet at ${field('booking.place')}. A few things make it easier:`,
      words`come a little early, and bring what you need to feel at ease. If you have a question, ${field('person.firstName')} is glad to answer it.`,
    ],
  ),
  starter(
    'day',
    'It is time',
    'the day',
    words`See you ${field('booking.dayFromSending')} at ${field('booking.time')}`,
    [
      words`not long now: ${field('booking.service')} at ${field('booking.time')}, ${field('booking.place')}.`,
      words`If you are late, please call ${field('business.phone')}.`,
    ],
  ),
  starter('thanks', 'Thank you for coming', 'after', words`Thank you for coming`, [
    words`thank you for ${field('booking.date')}. We hope you took home what you came for.`,
    words`If something could have been better, please tell us: an answer goes straight to ${field('person.firstName')}.`,
  ]),
  starter(
    'invoice',
    'An invoice is still open',
    'any time',
    words`Your invoice of ${field('invoice.amount')}`,
    [
      words`our invoice of ${field('invoice.amount')} is due ${field('invoice.dueFromSending')}, on ${field('invoice.dueDate')}.`,
      words`If it has crossed with your payment, please disregard this message.`,
    ],
  ),
  starter(
    'later',
    'A while ago',
    'later',
    words`It has been a while`,
    [
      words`it has been a while since you were with us. If you feel like coming again, an answer is enough, and we find a time together.`,
    ],
    { class: 'promotional' },
  ),
]
