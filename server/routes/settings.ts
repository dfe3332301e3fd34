import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { businessInput } from '#core/engine/commands/settingsCommands.ts'
import { knownRegions } from '../engine/holidays.ts'
import { rolloutOf } from '../engine/rollouts/progress.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { usesOfOwnStatus, usesOfService } from '../engine/uses.ts'
import { differencesOf } from '../sequences/differences.ts'
import { serve, valueOf } from './route.ts'

/** The business, its hours and its services. */
export function settingsRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  const differences = differencesOf(application)
  serve(router, statements, endpoints.businessSettings, () => {
    const { business } = application.settings.required()
    return {
      business: businessInput.strip().parse(business),
      zone: business.zone,
      revision: business.revision,
      regions: [...knownRegions()],
      rollout: rolloutOf(application, null),
    }
  })
  serve(router, statements, endpoints.startSettingsDifference, ({ body }) => ({
    jobId: differences.start({ sequenceId: null, change: body.change }),
  }))
  serve(router, statements, endpoints.changeSettings, ({ body, called }) =>
    valueOf(commands.changeSettings(called('changeSettings'), body.change, body.announcementId)),
  )
  serve(router, statements, endpoints.usesOfService, ({ parameters: { id } }) =>
    usesOfService(application, id),
  )
  serve(router, statements, endpoints.usesOfOwnStatus, ({ parameters: { id } }) =>
    usesOfOwnStatus(application, id),
  )
  serve(router, statements, endpoints.removeOwnStatus, ({ parameters: { id }, called }) =>
    valueOf(commands.removeOwnStatus(called('removeOwnStatus'), id)),
  )
  serve(router, statements, endpoints.removeService, ({ parameters: { id }, called }) =>
    valueOf(commands.removeService(called('removeService'), id)),
  )
}
