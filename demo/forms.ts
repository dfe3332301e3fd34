import type { Form, FormField } from '#core/model/form.ts'

const field = (id: string, label: string, part: Partial<FormField> = {}): FormField => ({
  id: `fi_${id}`,
  kind: 'line',
  label,
  help: '',
  isRequired: false,
  fills: null,
  options: [],
  shownIf: null,
  ...part,
})

const plain = (...all: readonly string[]) => all.map((words) => ({ words, serviceId: null }))

/** What is asked of who wants a balloon of their own. */
export const charterForm: Form = {
  id: 'fm_charter',
  name: 'Private charters',
  title: 'A balloon of your own',
  intro: 'Two minutes, and we look at wind, seats and season. An answer comes within two working days.',
  language: 'en',
  asksPhone: 'if they like',
  pipelineId: 'pl_enquiries',
  serviceId: 'sv_private',
  fields: [
    field('what', 'What is it for?', {
      isRequired: true,
      fills: 'what',
      help: 'A wedding day, a birthday, a quiet morning',
    }),
    field('hour', 'Morning or evening?', {
      kind: 'choice',
      isRequired: true,
      options: [
        { words: 'At sunrise', serviceId: null },
        { words: 'In the evening', serviceId: null },
        { words: 'Over to the island', serviceId: 'sv_island' },
      ],
    }),
    field('ferry', 'Who comes by which ferry?', {
      kind: 'text',
      shownIf: { fieldId: 'fi_hour', values: ['Over to the island'] },
    }),
    field('day', 'Which day do you think of?', {
      kind: 'date',
      fills: 'wished date',
      help: 'Leave it open if you like',
    }),
    field('people', 'How many will you be?', {
      kind: 'number',
      fills: 'people',
      help: 'Up to six in one basket',
    }),
    field('extras', 'What would you like with it?', {
      kind: 'several',
      options: plain('Something to raise a glass with', 'A cake from the village', 'Photographs'),
    }),
    field('budget', 'About how much may it cost, in euros?', { kind: 'number', fills: 'budget' }),
    field('fit', 'Everybody can climb into a basket as high as a kitchen table', {
      kind: 'consent',
      isRequired: true,
    }),
  ],
  thanks:
    'Thank you, it has landed with us.\nIlse looks at the day and writes back within two working days; a word comes to your mailbox right away.',
  isActive: true,
  revision: 1,
}
