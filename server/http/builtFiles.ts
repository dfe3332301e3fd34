import { existsSync } from 'node:fs'
import { join } from 'node:path'
import express, { type Express } from 'express'
import { projectFolder } from '../place.ts'
import { Refusal } from './problems.ts'

const built = join(projectFolder, 'dist')

/** The interface as it was built, where it was: each file under its own name, every other address the page itself. */
export function builtFiles(app: Express) {
  if (!existsSync(built)) return
  // Named by what is in them: another version has another name.
  app.use('/assets', express.static(join(built, 'assets'), { index: false, immutable: true, maxAge: '365d' }))
  app.use('/assets', ({ method, originalUrl }) => {
    throw new Refusal('not found', `There is nothing at ${method} ${originalUrl}.`)
  })
  app.use(express.static(built, { index: false, maxAge: '1h' }))
  app.get('/{*path}', (_, response) => {
    response.set('Cache-Control', 'no-cache')
    response.sendFile('index.html', { root: built, cacheControl: false })
  })
}
