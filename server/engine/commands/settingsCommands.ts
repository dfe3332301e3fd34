import {
  removeOwnStatus,
  removeService,
  type SettingsChange,
} from '#core/engine/commands/settingsCommands.ts'
import { done, type Result } from '#core/model/problem.ts'
import type { Application, CommandCall } from '../application.ts'
import { heldByItself, intoEffect, type InEffect } from '../rollouts/intoEffect.ts'
import { usesOfOwnStatus, usesOfService } from '../uses.ts'

/** What can be done with what holds for everybody: the business, its hours and its services. */
export function createSettingsCommands(application: Application) {
  return {
    /** Changed settings in effect, as it was announced; null: without having been announced. */
    changeSettings: (
      call: CommandCall,
      change: SettingsChange,
      announcementId: string | null,
    ): Result<InEffect> =>
      application.command(heldByItself(call), (context, settings) =>
        intoEffect(application, { sequenceId: null, change }, announcementId, settings, context),
      ),

    removeService: (call: CommandCall, id: string) =>
      application.command(call, (context, settings) => {
        const { names } = usesOfService(application, id)
        const decided = removeService(settings, id, names, context)
        return decided.ok ? done({ effects: decided.value, answer: { id } }) : decided
      }),

    removeOwnStatus: (call: CommandCall, id: string) =>
      application.command(call, (context, settings) => {
        const decided = removeOwnStatus(settings, id, usesOfOwnStatus(application, id).names, context)
        return decided.ok ? done({ effects: decided.value, answer: { id } }) : decided
      }),
  }
}
