import { randomUUID } from 'node:crypto'
import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { readSequenceFile } from '#core/sequences/sequenceFile.ts'
import type { CommandCall } from '../engine/office.ts'
import type { RunningOffice } from '../engine/runningOffice.ts'
import { Refusal } from '../http/problems.ts'
import { createDifferences } from '../sequences/differences.ts'
import { sequenceLines, sequenceView } from '../sequences/lines.ts'
import { previewSequence, previewSubjects } from '../sequences/preview.ts'
import { sendLines } from './lines.ts'
import { serve, valueOf } from './route.ts'

const called = (name: string, id: string, personId: string | null): CommandCall => ({ id, personId, name })

/** Designs: kept, looked at, and their difference worked out. */
function designRoutes(router: Router, running: RunningOffice) {
  const { office, commands } = running
  const { statements } = office.store
  const differences = createDifferences(office)
  office.onEnd(() => differences.endAll())
  serve(router, statements, endpoints.saveDesign, ({ parameters: { id }, body, personId }) =>
    valueOf(
      commands.saveDesign(called('saveDesign', body.commandId, personId), id, body.revision, body.design),
    ),
  )
  serve(router, statements, endpoints.dropDesign, ({ parameters: { id }, body, personId }) =>
    valueOf(commands.dropDesign(called('dropDesign', body.commandId, personId), id)),
  )
  serve(router, statements, endpoints.previewSubjects, ({ query }) => ({
    subjects: previewSubjects(running, query.on),
  }))
  serve(router, statements, endpoints.previewSequence, ({ parameters: { id }, body }) =>
    previewSequence(running, id, body.design, body.subject, body.hardCase),
  )
  serve(router, statements, endpoints.startDifference, ({ parameters: { id }, body }) => ({
    jobId: differences.start({ sequenceId: id, design: body.design, rollout: body.rollout }),
  }))
  serve(router, statements, endpoints.difference, ({ parameters: { id } }) => {
    const found = differences.read(id)
    if (!found) throw new Refusal('not found', 'This has been given up. Ask once more.')
    return found
  })
  serve(router, statements, endpoints.endDifference, ({ parameters: { id } }) => {
    differences.end(id)
    return {}
  })
  serve(router, statements, endpoints.putIntoEffect, ({ parameters: { id }, body, personId }) => {
    const { design, rollout, announcementId, commandId } = body
    const ask = { sequenceId: id, design, rollout }
    return valueOf(commands.putIntoEffect(called('putIntoEffect', commandId, personId), ask, announcementId))
  })
}

function variationRoutes(router: Router, { office, commands }: RunningOffice) {
  const { statements } = office.store
  serve(router, statements, endpoints.vary, ({ parameters: { id }, body, personId }) =>
    valueOf(
      commands.vary(called('vary', body.commandId, personId), {
        ...body.variation,
        id: id === 'new' ? `va_${randomUUID()}` : id,
        timingSetAt: office.clock.now(),
      }),
    ),
  )
  serve(router, statements, endpoints.removeVariation, ({ parameters: { id }, body, personId }) =>
    valueOf(commands.removeVariation(called('removeVariation', body.commandId, personId), id)),
  )
}

export function sequenceRoutes(router: Router, running: RunningOffice) {
  const { office, commands } = running
  const { statements } = office.store
  serve(router, statements, endpoints.sequences, () => ({ sequences: sequenceLines(running) }))
  serve(router, statements, endpoints.sequence, ({ parameters: { id } }) => {
    const view = sequenceView(running, id)
    if (!view) throw new Refusal('not found', 'There is no such sequence.')
    return view
  })
  serve(router, statements, endpoints.addSequence, ({ body, personId }) =>
    valueOf(commands.addSequence(called('addSequence', body.commandId, personId), body.design)),
  )
  serve(router, statements, endpoints.removeSequence, ({ parameters: { id }, body, personId }) =>
    valueOf(commands.removeSequence(called('removeSequence', body.commandId, personId), id)),
  )
  serve(router, statements, endpoints.switchSequence, ({ parameters: { id }, body, personId }) =>
    valueOf(commands.switchSequence(called('switchSequence', body.commandId, personId), id, body.isOn)),
  )
  serve(router, statements, endpoints.heldBackBySequence, ({ parameters: { id } }) => ({
    sends: sendLines(office, 'heldBackBySequence', { sequenceId: id, until: office.clock.now() }),
  }))
  serve(router, statements, endpoints.readSequenceFile, ({ body }) => {
    const written = valueOf(readSequenceFile(body.text, office.settings.required()))
    return { design: written }
  })
  designRoutes(router, running)
  variationRoutes(router, running)
}
