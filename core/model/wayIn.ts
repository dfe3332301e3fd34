import { z } from 'zod'

/** What a link by which somebody of the team chooses a password is for. */
export const wayInPurpose = z.enum(['invitation', 'new password'])
export type WayInPurpose = z.infer<typeof wayInPurpose>

/** NIST SP 800-63B 5.1.1.2 wants at least 8 characters; more is asked for here, and nothing about their kinds. */
export const newPassword = z.string().min(10, 'At least 10 characters.').max(200, 'At most 200 characters.')

/** A code of an authenticator (RFC 6238), blanks in it or not, or one of the recovery words. */
export const signInCode = z.string().trim().max(40)
