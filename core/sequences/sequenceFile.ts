import { testsOf } from '../conditions/testsOf.ts'
import { z } from 'zod'
import type { Condition } from '../model/condition.ts'
import type { Letter } from '../model/letter.ts'
import type { Service } from '../model/business.ts'
import { startRule, stopRule, type Sequence } from '../model/sequence.ts'
import { isBranch, isMessage, step, type PlainStep, type Step } from '../model/step.ts'
import { requiredLine } from '../model/values.ts'
import { done, refused, type Result } from '../model/problem.ts'
import { letterIdsOf, plainSteps } from './steps.ts'

const named = z.array(z.object({ id: z.string(), name: z.string() }).strict())

/** A sequence as a file of its own. What it mentions by id stands in it with its name, too. */
export const sequenceFile = z
  .object({
    format: z.literal('vorfreude-sequence-1'),
    name: requiredLine(120, 'A sequence needs a name.'),
    start: startRule,
    steps: z.array(step).max(100),
    stops: z.array(stopRule).max(20),
    letters: named,
    services: named,
    sequences: named,
  })
  .strict()
export type SequenceFile = z.infer<typeof sequenceFile>

interface Written {
  readonly name: string
  readonly start: SequenceFile['start']
  readonly steps: SequenceFile['steps']
  readonly stops: SequenceFile['stops']
}

interface House {
  readonly letters: readonly Pick<Letter, 'id' | 'name'>[]
  readonly services: readonly Pick<Service, 'id' | 'name'>[]
  readonly sequences: readonly Pick<Sequence, 'id' | 'name'>[]
}

const startedIds = (steps: readonly Step[]) =>
  plainSteps(steps).flatMap((one) => (one.kind === 'sequence' ? [one.sequenceId] : []))

const serviceIdsIn = (condition: Condition): readonly string[] =>
  testsOf(condition).flatMap(({ field, value }) =>
    field.endsWith('.service') ? [value].flat().map(String) : [],
  )

function conditionsOf({ start, steps }: Pick<Written, 'start' | 'steps'>): readonly Condition[] {
  const within = (all: readonly Step[]): readonly (Condition | null | undefined)[] =>
    all.flatMap((one) =>
      isBranch(one)
        ? [one.condition, ...within(one.yes), ...within(one.no)]
        : [one.onlyIf, one.repeat?.untilCondition],
    )
  return [start.onlyIf, ...within(steps)].filter((one) => one != null)
}

/** A sequence as a file. */
export function asSequenceFile({ name, start, steps, stops }: Written, house: House): SequenceFile {
  const pick = (all: readonly { readonly id: string; readonly name: string }[], ids: readonly string[]) =>
    all.filter(({ id }) => ids.includes(id)).map((one) => ({ id: one.id, name: one.name }))
  const services = [...start.serviceIds, ...conditionsOf({ start, steps }).flatMap(serviceIdsIn)]
  return {
    format: 'vorfreude-sequence-1',
    name,
    start,
    steps,
    stops,
    letters: pick(house.letters, letterIdsOf(steps)),
    services: pick(house.services, services),
    sequences: pick(house.sequences, startedIds(steps)),
  }
}

/** Ids of the file by those of this house: the same id, else the same name. */
function translations(
  what: string,
  ids: readonly string[],
  inFile: readonly { readonly id: string; readonly name: string }[],
  here: readonly { readonly id: string; readonly name: string }[],
): Result<ReadonlyMap<string, string>> {
  const known = new Map<string, string>()
  const missing: string[] = []
  for (const id of new Set(ids)) {
    const name = inFile.find((one) => one.id === id)?.name
    const own = here.find((one) => one.id === id) ?? here.find((one) => one.name === name)
    if (own) known.set(id, own.id)
    else missing.push(name ?? id)
  }
  if (missing.length === 0) return done(known)
  const names = missing.map((one) => `“${one}”`).join(', ')
  return refused('not found', `The file needs ${what} that are not here: ${names}. Bring those in first.`)
}

/** Steps with letters, services and sequences under the ids of this house. */
class Translator {
  constructor(
    private readonly letters: ReadonlyMap<string, string>,
    private readonly services: ReadonlyMap<string, string>,
    private readonly sequences: ReadonlyMap<string, string>,
  ) {}

  service = (id: string) => this.services.get(id) ?? id

  condition = (of: Condition): Condition => {
    if ('all' in of) return { all: of.all.map(this.condition) }
    if ('any' in of) return { any: of.any.map(this.condition) }
    if ('none' in of) return { none: of.none.map(this.condition) }
    if (!of.field.endsWith('.service')) return of
    const value = Array.isArray(of.value)
      ? of.value.map((one) => this.service(String(one)))
      : this.service(String(of.value))
    return { ...of, value }
  }

  private plain(of: PlainStep): PlainStep {
    const onlyIf = of.onlyIf && this.condition(of.onlyIf)
    const untilCondition = of.repeat?.untilCondition ? this.condition(of.repeat.untilCondition) : null
    const repeat = of.repeat && { ...of.repeat, untilCondition }
    const same = { ...of, onlyIf, repeat }
    const letter = (id: string) => this.letters.get(id) ?? id
    if (same.kind === 'sequence')
      return { ...same, sequenceId: this.sequences.get(same.sequenceId) ?? same.sequenceId }
    if (!isMessage(same)) return same
    const recipients = same.recipients.map((rule) => ({
      ...rule,
      letterId: rule.letterId && letter(rule.letterId),
    }))
    return same.kind === 'mail'
      ? { ...same, recipients, letterId: letter(same.letterId) }
      : { ...same, recipients }
  }

  steps = (all: readonly Step[]): Step[] =>
    all.map((one) =>
      isBranch(one)
        ? {
            ...one,
            condition: this.condition(one.condition),
            yes: this.steps(one.yes),
            no: this.steps(one.no),
          }
        : this.plain(one),
    )
}

/** Reads a sequence out of a file's text for this house: refused with a sentence where something is missing or wrong. */
export function readSequenceFile(text: string, house: House): Result<Written> {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch {
    return refused('malformed', 'This file is no JSON: a sequence is kept as JSON.')
  }
  const parsed = sequenceFile.safeParse(json)
  if (!parsed.success) {
    const [issue] = parsed.error.issues
    const where = issue?.path.join('.') ?? ''
    return refused(
      'invalid',
      `This is no sequence of Vorfreude${where === '' ? '' : `, at ${where}`}: ${issue?.message ?? ''}`,
    )
  }
  const file = parsed.data
  const serviceIds = [...file.start.serviceIds, ...conditionsOf(file).flatMap(serviceIdsIn)]
  const letters = translations('letters', letterIdsOf(file.steps), file.letters, house.letters)
  if (!letters.ok) return letters
  const services = translations('services', serviceIds, file.services, house.services)
  if (!services.ok) return services
  const sequences = translations('sequences', startedIds(file.steps), file.sequences, house.sequences)
  if (!sequences.ok) return sequences
  const into = new Translator(letters.value, services.value, sequences.value)
  const { name, start, steps, stops } = file
  return done({
    name,
    start: {
      ...start,
      serviceIds: start.serviceIds.map(into.service),
      onlyIf: start.onlyIf && into.condition(start.onlyIf),
    },
    steps: into.steps(steps),
    stops,
  })
}
