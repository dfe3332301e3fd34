import type { AudienceRow } from '#core/api/letterEndpoints.ts'
import { createZoneTable, type PackedZones } from '#core/time/zones.ts'
import { createTrial, type Trial, type TrialShare } from './tryAll.ts'

export type TrialQuestion =
  | { readonly kind: 'begin'; readonly share: TrialShare; readonly zones: PackedZones }
  | { readonly kind: 'rows'; readonly rows: readonly AudienceRow[] }

export interface TrialAnswer {
  readonly tried: number
  /** Those for whom something is amiss. */
  readonly found: readonly Trial[]
}

let tryOn: ((row: AudienceRow) => Trial) | null = null

self.addEventListener('message', ({ data }: MessageEvent<TrialQuestion>) => {
  if (data.kind === 'begin') {
    tryOn = createTrial(data.share, createZoneTable(data.zones))
    return
  }
  const present = tryOn
  if (!present) return
  const found = data.rows
    .map(present)
    .filter(({ held, lacking, hasNoAddress }) => held.length + lacking.length > 0 || hasNoAddress)
  const answer: TrialAnswer = { tried: data.rows.length, found }
  self.postMessage(answer)
})
