import type { Person } from '#core/model/business.ts'
import { readPeople } from '../db/settingsStore.ts'
import type { Statements } from '../db/statements.ts'
import { Refusal } from '../http/problems.ts'
import { passwordFits } from '../session/password.ts'
import { passwordFault } from '../session/passwordRules.ts'
import type { Session } from '../session/sessions.ts'

export const storedHash = (row: Record<string, unknown> | undefined) =>
  typeof row?.['passwordHash'] === 'string' ? row['passwordHash'] : null

/** The session, once the person has proved by their present password that it is them. Throws a Refusal. */
export async function checkOwnPassword(
  statements: Statements,
  session: Session | null,
  present: string,
): Promise<Session> {
  if (!session) throw new Refusal('not signed in', 'Sign in first.')
  const email = readPeople(statements).find(({ id }) => id === session.personId)?.email ?? ''
  if (!(await passwordFits(present, storedHash(statements.one('passwordOf', { email }))))) {
    const detail = 'This is not the present password.'
    throw new Refusal('invalid', detail, [{ path: 'present', detail }])
  }
  return session
}

/** Refuses a new password that is guessed easily. */
export async function checkNewPassword(
  password: string,
  { name, email, businessName }: Pick<Person, 'name' | 'email'> & { readonly businessName: string },
) {
  const detail = await passwordFault(password, [name, email, businessName])
  if (detail !== null) throw new Refusal('invalid', detail, [{ path: 'password', detail }])
}
