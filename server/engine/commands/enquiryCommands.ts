import type { NoteAnswer } from '#core/api/taskEndpoints.ts'
import {
  addEnquiry,
  bookEnquiry,
  changeEnquiry,
  moveEnquiries,
  moveEnquiry,
  type BookEnquiryInput,
  type ChangeEnquiryInput,
  type NewEnquiryInput,
  type SeenEnquiry,
  type StageMove,
} from '#core/engine/commands/enquiryCommands.ts'
import {
  setEvening,
  tellAgain,
  tickLine,
  untickLine,
  type LineToTick,
} from '#core/engine/commands/eveningCommands.ts'
import {
  putPipeline,
  removePipeline,
  stagesMoved,
  type PipelineChange,
} from '#core/engine/commands/pipelineCommands.ts'
import type { EngineContext } from '#core/engine/context.ts'
import { settingsWithEffects, type Effect } from '#core/engine/effects.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Slice } from '#core/planning/slice.ts'
import { readEnquiry } from '../../db/clientStore.ts'
import { asJson } from '../../db/columns.ts'
import { focusOn, onlyLiving } from '../../db/livingStore.ts'
import type { Application, CommandCall, Decision } from '../application.ts'
import { usesOfStage } from '../uses.ts'
import { bookingAnswer, onClient, type Changed } from './onClient.ts'
import { noted } from './taskCommands.ts'
import { decideTogether, manyDecided, type ManyAnswer } from './together.ts'

type Decide = (slice: Slice, context: EngineContext) => Result<readonly Effect[]>

/** The enquiry that was made or changed. */
function enquiryAnswer(effects: readonly Effect[]): Changed {
  const put = effects.findLast((one) => one.kind === 'put enquiry')
  if (!put) throw new Error('The command changed no enquiry')
  return { id: put.enquiry.id, revision: put.enquiry.revision }
}

function onEnquiry(application: Application, call: CommandCall, id: string, decide: Decide): Result<Changed> {
  return application.command(call, (context) =>
    onClient(
      application,
      readEnquiry(application.store.statements, id)?.clientId,
      focusOn(id),
      'There is no such enquiry.',
      (slice) => decide(slice, context),
      enquiryAnswer,
    ),
  )
}

/** What is done with the lines of its checklists, each found by its id. */
function checklistCommandsOf(application: Application) {
  const onLine =
    (
      decide: (
        slice: Slice,
        id: string,
        line: LineToTick,
        context: EngineContext,
      ) => Result<readonly Effect[]>,
    ) =>
    (call: CommandCall, id: string, lineId: string): Result<Changed> =>
      onEnquiry(application, call, id, (slice, context) => {
        const line = slice.settings.pipelines
          .flatMap(({ stages }) => stages.flatMap(({ checklist }) => checklist))
          .find((one) => one.id === lineId)
        if (!line) return refused('not found', 'There is no such line any more.')
        const sentence = line.sentence === '' ? null : line.sentence
        return decide(slice, id, { lineId, words: line.words, sentence }, context)
      })
  return {
    tickLine: onLine(tickLine),
    untickLine: onLine(untickLine),
    tellAgain: onLine(tellAgain),
    setEvening: (call: CommandCall, id: string, isOn: boolean, tellsEarlier: boolean) =>
      onEnquiry(application, call, id, (slice, context) =>
        setEvening(slice, id, isOn, tellsEarlier, context),
      ),
  }
}

/** What is done with pipelines; enquiries in stages that go follow at once, client by client. */
function pipelineCommandsOf(application: Application) {
  const { statements } = application.store
  return {
    putPipeline: (call: CommandCall, change: PipelineChange): Result<Changed> =>
      application.command(call, (context, settings) => {
        const put = putPipeline(settings, change, usesOfStage(application, change.id), context)
        if (!put.ok) return put
        const stagesJson = asJson(change.moved.map(({ from }) => from))
        const clients = statements.all('clientsWithEnquiriesIn', { pipelineId: change.id ?? '', stagesJson })
        const present = settings.pipelines.find(({ id }) => id === change.id)
        const after = settingsWithEffects(settings, put.value)
        const followed = clients.flatMap(({ clientId }) => {
          const slice = application.readableSliceOf(String(clientId), onlyLiving)
          return slice && present ? stagesMoved({ ...slice, settings: after }, present, change, context) : []
        })
        const [first] = put.value
        const { id = '', revision = 0 } = first?.kind === 'put pipeline' ? first.pipeline : {}
        return done({ effects: [...put.value, ...followed], answer: { id, revision } })
      }),
    removePipeline: (call: CommandCall, id: string) =>
      application.command(call, (context, settings) => {
        const rows = statements.all('enquiriesByStage', { pipelineId: id })
        const enquiries = rows.reduce((sum, { count }) => sum + Number(count), 0)
        const decided = removePipeline(settings, id, enquiries, context)
        return decided.ok ? done({ effects: decided.value, answer: { id } }) : decided
      }),
  }
}

/** Many into one stage, as it was announced; those that cannot go there stay where they are. */
const moving =
  (application: Application) =>
  (call: CommandCall, enquiries: readonly SeenEnquiry[], move: StageMove): Result<ManyAnswer> =>
    application.command(call, (context) => {
      const seen = new Map(enquiries.map((one) => [one.id, one]))
      const items = [...seen.keys()].map((id) => ({
        id,
        item: readEnquiry(application.store.statements, id),
      }))
      const together = decideTogether(application, items, {
        clientOf: ({ clientId }) => clientId,
        reading: (own) => focusOn(...own.map(({ id }) => id)),
        decide: (slice, own) =>
          moveEnquiries(
            slice,
            own.flatMap(({ id }) => seen.get(id) ?? []),
            move,
            context,
          ),
        missing: 'There is no such enquiry.',
      })
      return done(manyDecided(items.length, together))
    })

/** What the team can do with enquiries and their pipelines. */
export function createEnquiryCommands(application: Application) {
  const { statements } = application.store
  return {
    ...checklistCommandsOf(application),
    ...pipelineCommandsOf(application),
    addEnquiry: (call: CommandCall, input: NewEnquiryInput): Result<Changed> =>
      application.command(call, (context) =>
        onClient(
          application,
          input.clientId,
          onlyLiving,
          'There is no such client.',
          (slice) => addEnquiry(slice, input, context),
          enquiryAnswer,
        ),
      ),
    changeEnquiry: (call: CommandCall, { id, revision }: SeenEnquiry, facts: ChangeEnquiryInput) =>
      onEnquiry(application, call, id, (slice, context) =>
        changeEnquiry(slice, id, revision, facts, context),
      ),
    moveEnquiry: (call: CommandCall, seen: SeenEnquiry, move: StageMove) =>
      onEnquiry(application, call, seen.id, (slice, context) => moveEnquiry(slice, seen, move, context)),
    bookEnquiry: (call: CommandCall, seen: SeenEnquiry, input: BookEnquiryInput): Result<Changed> =>
      application.command(call, (context) => {
        const enquiry = readEnquiry(statements, seen.id)
        return onClient(
          application,
          enquiry?.clientId,
          focusOn(seen.id, ...(enquiry?.bookingId == null ? [] : [enquiry.bookingId])),
          'There is no such enquiry.',
          (slice) => bookEnquiry(slice, seen, input, application.seatsTaken, context),
          bookingAnswer,
        )
      }),
    moveEnquiries: moving(application),
    noteOnEnquiry: (call: CommandCall, id: string, text: string): Result<NoteAnswer> =>
      application.command(call, (context, settings): Result<Decision<NoteAnswer>> => {
        const enquiry = readEnquiry(statements, id)
        if (!enquiry) return refused('not found', 'There is no such enquiry.')
        const about = { clientId: enquiry.clientId, subject: { kind: 'enquiry', id } } as const
        return done(noted(about, id, text, settings, context))
      }),
  }
}
