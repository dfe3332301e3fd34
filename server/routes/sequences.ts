import { randomUUID } from 'node:crypto'
import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { whyNotAsked } from '#core/insight/whyNotAsked.ts'
import type { Subject } from '#core/model/subject.ts'
import { placeZone, serviceOf, versionOf, type Slice } from '#core/planning/slice.ts'
import { stepLabel } from '#core/sequences/stepLabel.ts'
import { readSequenceFile } from '#core/sequences/sequenceFile.ts'
import { findStep } from '#core/sequences/steps.ts'
import { dateAndTime } from '#core/time/format.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { differencesOf } from '../sequences/differences.ts'
import { sequenceLines, sequenceView } from '../sequences/lines.ts'
import { previewSequence, previewSubjects } from '../sequences/preview.ts'
import { trustOfSteps } from '../sequences/trust.ts'
import { sendLines } from './lines.ts'
import { serve, valueOf } from './route.ts'

/** Designs: kept, looked at, and their difference worked out. */
function designRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  const differences = differencesOf(application)
  serve(router, statements, endpoints.addExample, ({ body, called }) =>
    valueOf(commands.addExample(called('addExample'), body.name)),
  )
  serve(router, statements, endpoints.saveDesign, ({ parameters: { id }, body, called }) =>
    valueOf(commands.saveDesign(called('saveDesign'), id, body.revision, body.design)),
  )
  serve(router, statements, endpoints.dropDesign, ({ parameters: { id }, called }) =>
    valueOf(commands.dropDesign(called('dropDesign'), id)),
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
  serve(router, statements, endpoints.stopRollout, ({ parameters: { id }, called }) =>
    valueOf(commands.stopRollout(called('stopRollout'), id)),
  )
  serve(router, statements, endpoints.takeUpRollout, ({ parameters: { id }, called }) =>
    valueOf(commands.takeUpRollout(called('takeUpRollout'), id)),
  )
  serve(router, statements, endpoints.putIntoEffect, ({ parameters: { id }, body, called }) => {
    const { design, rollout, announcementId } = body
    const ask = { sequenceId: id, design, rollout }
    return valueOf(commands.putIntoEffect(called('putIntoEffect'), ask, announcementId))
  })
}

const subjectWords: Readonly<Record<Subject['kind'], string>> = {
  booking: 'a booking',
  enquiry: 'an enquiry',
  invoice: 'an invoice',
  client: 'the client',
}

/** What a message would be about, in words. */
function aboutWords({ settings, facts }: Slice, { kind, id }: Subject): string {
  const booking = facts.bookings.find((one) => one.id === id)
  if (!booking) return subjectWords[kind]
  const service = serviceOf(settings, booking.serviceId)
  return `${service.name}, ${dateAndTime(placeZone(settings, service), booking.startAt)}`
}

function whyNotRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.trust, () => ({ steps: trustOfSteps(application) }))
  serve(router, statements, endpoints.backToApproval, ({ parameters: { id }, body, called }) =>
    valueOf(commands.backToApproval(called('backToApproval'), id, body.stepId)),
  )
  serve(router, statements, endpoints.whyNot, ({ parameters: { id }, query }) => {
    const slice = application.sliceOf(id, 'everything')
    if (!slice) throw new Refusal('not found', 'There is no such client.')
    const { sequenceId, letterId } = query
    const asked = sequenceId === undefined ? (letterId === undefined ? null : { letterId }) : { sequenceId }
    if (!asked) throw new Refusal('invalid', 'Choose a sequence or a letter.')
    const answers = whyNotAsked(asked, slice, application.clock.now()).map((answer) => {
      const sequence = slice.settings.sequences.find((one) => one.id === answer.sequenceId)
      const step =
        sequence && findStep(versionOf(slice.settings, sequence.id, sequence.currentVersion), answer.stepId)
      return {
        sequenceId: answer.sequenceId,
        sequenceName: sequence?.name ?? answer.sequenceId,
        stepId: answer.stepId,
        action: step
          ? stepLabel(step, step.kind === 'mail' ? step.letterId : null, slice.settings)
          : answer.stepId,
        about: aboutWords(slice, answer.subject),
        send: answer.send,
        because: answer.because,
        words: [...answer.words],
        comesThen: answer.comesThen,
        still: answer.still,
      }
    })
    return { answers }
  })
}

function variationRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.vary, ({ parameters: { id }, body, called }) =>
    valueOf(
      commands.vary(called('vary'), {
        ...body.variation,
        id: id === 'new' ? `va_${randomUUID()}` : id,
        timingSetAt: application.clock.now(),
      }),
    ),
  )
  serve(router, statements, endpoints.removeVariation, ({ parameters: { id }, called }) =>
    valueOf(commands.removeVariation(called('removeVariation'), id)),
  )
}

export function sequenceRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  serve(router, statements, endpoints.sequences, () => ({ sequences: sequenceLines(running) }))
  serve(router, statements, endpoints.sequence, ({ parameters: { id } }) => {
    const view = sequenceView(running, id)
    if (!view) throw new Refusal('not found', 'There is no such sequence.')
    return view
  })
  serve(router, statements, endpoints.addSequence, ({ body, called }) =>
    valueOf(commands.addSequence(called('addSequence'), body.design)),
  )
  serve(router, statements, endpoints.removeSequence, ({ parameters: { id }, called }) =>
    valueOf(commands.removeSequence(called('removeSequence'), id)),
  )
  serve(router, statements, endpoints.switchSequence, ({ parameters: { id }, body, called }) =>
    valueOf(commands.switchSequence(called('switchSequence'), id, body.isOn)),
  )
  serve(router, statements, endpoints.heldBackBySequence, ({ parameters: { id } }) => ({
    sends: sendLines(application, 'heldBackBySequence', { sequenceId: id, until: application.clock.now() }),
  }))
  serve(router, statements, endpoints.readSequenceFile, ({ body }) => {
    const written = valueOf(readSequenceFile(body.text, application.settings.required()))
    return { design: written }
  })
  designRoutes(router, running)
  variationRoutes(router, running)
  whyNotRoutes(router, running)
}
