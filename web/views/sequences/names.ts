import type { SettingsView } from '#core/api/views.ts'
import { stepLabel } from '#core/sequences/stepLabel.ts'
import type { StepNames } from '#core/sequences/sentence.ts'

/** Names of what a sequence mentions by id, as the settings have them. */
export function namesFrom(settings: SettingsView): StepNames {
  return {
    serviceName: (id) => settings.services.find((one) => one.id === id)?.name ?? id,
    personName: (id) => settings.people.find((one) => one.id === id)?.name ?? 'somebody who has left',
    action: (step) => stepLabel(step, step.kind === 'mail' ? step.letterId : null, settings),
  }
}
