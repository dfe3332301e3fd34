import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const here = fileURLToPath(import.meta.url)

function rootAbove(folder: string): string {
  return existsSync(join(folder, 'package.json')) ? folder : rootAbove(dirname(folder))
}

/** The folder of the project. What is not code is read from there, whether this runs as it is written or as it is built. */
export const projectFolder = rootAbove(dirname(here))

/** Whether this runs as it was built, and not as it is written. */
const isBuilt = here.endsWith('.js')

/** Another program or thread of the project, by its path without an ending, and what Node needs to run it. */
export interface OwnProgram {
  readonly file: string
  readonly execArgv: readonly string[]
}

export function ownProgram(path: string): OwnProgram {
  return isBuilt
    ? { file: join(projectFolder, 'built', `${path}.js`), execArgv: [] }
    : { file: join(projectFolder, `${path}.ts`), execArgv: ['--import', 'tsx'] }
}
