import type { PipelineView, StageSum } from '#core/api/enquiryEndpoints.ts'
import type { EnquiryLine } from '#core/api/enquiryViews.ts'
import { folded } from '#core/model/folded.ts'
import type { Stage } from '#core/model/pipeline.ts'

/** What of a pipeline is looked at. */
export interface BoardFilters {
  readonly words: string
  /** Null: whoever is in charge; empty: nobody is. */
  readonly personId: string | null
  readonly serviceId: string | null
  /** Only what is past its deadline. */
  readonly isLate: boolean
}

/** A stage as a band: its head, then its enquiries. */
export interface Band {
  readonly stage: Stage
  readonly sum: StageSum
  /** Of those that fit, the one that is due first stands first. */
  readonly lines: readonly EnquiryLine[]
}

export type Row =
  | { readonly kind: 'band'; readonly band: Band }
  | { readonly kind: 'line'; readonly line: EnquiryLine }
  | { readonly kind: 'nothing'; readonly stage: string }

/** Whether the deadline of an enquiry has passed; the day itself still counts. */
export const isLate = ({ deadlineOn }: Pick<EnquiryLine, 'deadlineOn'>, today: string) =>
  deadlineOn !== null && deadlineOn < today

const fits = (
  line: EnquiryLine,
  { words, personId, serviceId, isLate: onlyLate }: BoardFilters,
  today: string,
) =>
  (words === '' || folded(`${line.clientName} ${line.what} ${line.source}`).includes(folded(words))) &&
  (personId === null || (line.personInChargeId ?? '') === personId) &&
  (serviceId === null || line.serviceId === serviceId) &&
  (!onlyLate || isLate(line, today))

/** What is due first: the deadline, else the day wished for; what has neither comes last, the oldest first. */
function byDue(one: EnquiryLine, other: EnquiryLine): number {
  const dueOf = ({ deadlineOn, wishedOn }: EnquiryLine) => deadlineOn ?? wishedOn ?? '9999-12-31'
  const [a, b] = [dueOf(one), dueOf(other)]
  if (a !== b) return a < b ? -1 : 1
  return one.receivedAt - other.receivedAt || (one.id < other.id ? -1 : 1)
}

/** The open stages of a pipeline with those of their enquiries that fit. */
export function bandsOf(view: PipelineView, filters: BoardFilters, today: string): readonly Band[] {
  return view.pipeline.stages.flatMap((stage, index) => {
    const sum = view.sums[index]
    if (stage.meaning !== 'open' || !sum) return []
    const lines = view.lines.filter((line) => line.stage === stage.name && fits(line, filters, today))
    return [{ stage, sum, lines: lines.toSorted(byDue) }]
  })
}

/** The bands as rows of one list; of a folded one only its head. */
export const rowsOf = (bands: readonly Band[], folds: ReadonlySet<string>): readonly Row[] =>
  bands.flatMap((band): readonly Row[] => {
    const { name } = band.stage
    if (folds.has(name)) return [{ kind: 'band', band }]
    const lines = band.lines.map((line) => ({ kind: 'line', line }) as const)
    return [
      { kind: 'band', band },
      ...(lines.length > 0 ? lines : [{ kind: 'nothing', stage: name } as const]),
    ]
  })
