import { field, words, writtenLetter, type WithoutId } from '#core/letters/authoring.ts'
import type { Inline, Letter, Section } from '#core/model/letter.ts'

export const greeting = words`Hello ${field('contact.firstName', 'and good day')},`
export const gruss = words`Guten Tag ${field('contact.fullName')},`

export const heading = (content: Inline[]) => ({ kind: 'heading', content }) as const
export const text = (...paragraphs: Inline[][]) => ({ kind: 'text', paragraphs }) as const
export const passage = (passageId: string) => ({ kind: 'passage', passageId }) as const
export const button = (label: string, link: string): WithoutId<Section> => ({
  kind: 'button',
  label: [{ kind: 'text', text: label }],
  link,
})
export const facts = { kind: 'facts' } as const
const signature = { kind: 'signature' } as const
export const calendar: Pick<Letter, 'attachments'> = { attachments: [{ kind: 'calendar' }] }

/** The words behind the subject in lists of mails. */
const previewTexts: Readonly<Record<string, Inline[]>> = {
  asked: words`It is noted; an answer comes within two working days.`,
  stillasking: words`One word is enough, and the place is kept or given back.`,
  offer: words`Up to six people, your own meadow, and the toast is with us.`,
  agreement: words`Read it in peace; it takes two minutes.`,
  unsigned: words`Two minutes, and the day is yours.`,
  evening: words`What we could tick off for you.`,
  silence: words`We have not forgotten you.`,
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

export function letter(
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
