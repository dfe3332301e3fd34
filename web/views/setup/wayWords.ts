import type { WaysOut } from '#core/api/mailAccountEndpoints.ts'

/** How messages go out now, in a sentence. */
export function wayWords({ way, account }: WaysOut): string {
  if (way === 'post office') return 'Messages go to the built-in post office: nobody outside gets them.'
  if (way === 'given') return 'Messages go out through the account that was given by VORFREUDE_SMTP_URL.'
  return `Messages go out through ${account?.host ?? ''}${account?.user ? `, as ${account.user}` : ''}.`
}
