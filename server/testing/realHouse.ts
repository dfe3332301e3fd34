import type { Person } from '#core/model/business.ts'
import { addPerson } from '../db/settingsStore.ts'
import { openApplication, type RunningApplication } from '../engine/runningApplication.ts'
import { hashPassword } from '../session/password.ts'
import { writeExampleBusiness } from './seed.ts'

/** Somebody of the team with the password they come in by; null: they have none. */
export type WithPassword = readonly [person: Person, password: string | null]

/** The example business on the real clock, with people who come in by their passwords. */
export async function openRealHouse(
  folder: string,
  people: readonly WithPassword[],
): Promise<RunningApplication> {
  const running = await openApplication({
    folder,
    isDemo: false,
    smtpUrl: null,
    onFault: (fault) => {
      throw fault
    },
  })
  const { store, settings } = running.application
  const hashed = await Promise.all(
    people.map(
      async ([person, password]) =>
        [person, password === null ? null : await hashPassword(password)] as const,
    ),
  )
  store.transaction(() => {
    writeExampleBusiness(store.statements)
    hashed.forEach(([person, hash]) => addPerson(store.statements, person, hash))
  })
  settings.forget()
  return running
}
