import { epochDayOf, isoDateOf } from '../time/calendar.ts'
import { answersAfter, answersBefore, type ExampleAnswer } from './exampleAnswers.ts'
import { intents } from './intents.ts'
import { firstDayMeant, readAnswer } from './readAnswer.ts'

/** The day the made-up answers are read on. */
const today = epochDayOf('2026-05-14')

function readOf({ text }: ExampleAnswer) {
  const read = readAnswer(text, today, 'en')
  const day = firstDayMeant(read)
  return { intent: read.intent, day: day === null ? null : isoDateOf(day) }
}

function tableOf(answers: readonly ExampleAnswer[]): string {
  const read = answers.map((one) => ({ wanted: one.intent, ...readOf(one) }))
  const rows = intents.map((wanted) => {
    const counts = intents.map(
      (got) => read.filter((one) => one.wanted === wanted && one.intent === got).length,
    )
    return `| **${wanted}** | ${counts.map((count) => (count === 0 ? '' : String(count))).join(' | ')} |`
  })
  return [
    `| wanted | ${intents.join(' | ')} |`,
    `| --- |${intents.map(() => ' --: |').join('')}`,
    ...rows,
  ].join('\n')
}

function wrongOf(answers: readonly ExampleAnswer[]): string {
  const wrong = answers.flatMap((one) => {
    const { intent, day } = readOf(one)
    if (intent === one.intent && day === one.day) return []
    const is = `${intent}${day === null ? '' : `, ${day}`}`
    return [`- “${one.text}” — ${one.intent}${one.day === null ? '' : `, ${one.day}`}; read as ${is}`]
  })
  return wrong.length === 0 ? 'None is read otherwise.' : wrong.join('\n')
}

function sectionOf(title: string, answers: readonly ExampleAnswer[]): string {
  const right = answers.filter((one) => readOf(one).intent === one.intent).length
  const dated = answers.filter((one) => readOf(one).day === one.day).length
  return [
    `## ${title}`,
    '',
    `${right} of ${answers.length} are read as what they want, ${dated} with the day they mean.`,
    '',
    tableOf(answers),
    '',
    'Read otherwise:',
    '',
    wrongOf(answers),
  ].join('\n')
}

/** How well answers are read, as a page for people: rows are what was wanted, columns what was read. */
export const confusionPage = (): string =>
  [
    '# How well answers are read',
    '',
    'Made-up answers in English and German, each with what a person takes it for, read by the rules in `core/incoming/`.',
    'Made anew by `./run formats` and compared by a test. Whatever is read, nothing is done by itself: one act is proposed,',
    'what follows from it is shown, and a person presses.',
    '',
    sectionOf('Answers the rules were made by', answersBefore),
    '',
    sectionOf('Answers written after the rules, which were not changed for them', answersAfter),
    '',
  ].join('\n')
