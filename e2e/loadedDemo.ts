import Sqlite from 'better-sqlite3'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { loadedDemo, startServer } from './demoServer.ts'

/** Loads the demo once for all tests. Its copies are no restored backups, which would hold sending back. */
export default async function loadDemoOnce() {
  const server = await startServer('demo/main')
  await server.end()
  const { folder } = server
  const database = new Sqlite(join(folder, 'vorfreude.db'))
  database.prepare("DELETE FROM meta WHERE key = 'file'").run()
  database.close()
  process.env[loadedDemo] = folder
  return () => rmSync(folder, { recursive: true, force: true })
}
