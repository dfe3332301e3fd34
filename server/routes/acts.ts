import { stringify } from 'csv-stringify/sync'
import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { fileEndpoints } from '#core/api/fileEndpoints.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { inParts } from './parts.ts'
import { give, serve } from './route.ts'

/** So many acts are given out in one file. */
const mostInFile = 100_000

const header = ['at', 'person', 'from', 'act', 'thing', 'name', 'fact', 'before', 'after'] as const

/** The record of acts: looked through, and as a table. */
export function actRoutes(router: Router, { application, record }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.acts, ({ query: { words, personId, ...asked } }) =>
    inParts(asked, (part) => record.list({ words, personId: personId ?? null, ...part })),
  )
  give(router, statements, fileEndpoints.actsFile, ({ query: { words, personId }, response }) => {
    const acts = record.list({ words, personId: personId ?? null, afterId: null, limit: mostInFile })
    const rows = acts.flatMap(({ at, personName, from, sentence, things }) => {
      const who = [new Date(at).toISOString(), personName, from, sentence]
      const facts = things.flatMap(({ what, name, facts: all }) =>
        all.map(({ path, before, after }) => [...who, what, name, path, before ?? '', after ?? '']),
      )
      return facts.length > 0 ? facts : [[...who, '', '', '', '', '']]
    })
    response
      .attachment('acts.csv')
      .type('text/csv')
      .send(
        stringify([[...header], ...rows], { escape_formulas: true, bom: true, record_delimiter: 'windows' }),
      )
  })
}
