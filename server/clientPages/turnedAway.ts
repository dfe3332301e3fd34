import type { Response } from 'express'
import { wasTooOften } from '../http/rateLimits.ts'
import type { paceOf } from './clientForms.ts'
import type { PageWords } from './words.ts'

type Words = Pick<PageWords, 'tooOften' | 'trap' | 'tooFast' | 'tooOld'>

/** Why a form of a public page is not even looked at; null: it is. */
export function turnedAway(
  values: Readonly<Record<string, string>>,
  response: Response,
  words: Words,
  pace: ReturnType<typeof paceOf>,
) {
  if (wasTooOften(response)) return { status: 429, alert: words.tooOften }
  if ((values['website'] ?? '') !== '') return { status: 422, alert: words.trap }
  if (pace === 'fine') return null
  return { status: 422, alert: pace === 'too fast' ? words.tooFast : words.tooOld }
}
