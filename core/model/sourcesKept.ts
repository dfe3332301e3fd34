import { z } from 'zod'

/** For how many months e-mails are kept as they went; their text, facts and reasons stay. Null: for ever. */
export const sourcesKeptMonths = z
  .number()
  .int('Give whole months.')
  .min(1, 'At least 1 month.')
  .max(600, 'At most 600 months; without a number they are kept for ever.')
  .nullable()
