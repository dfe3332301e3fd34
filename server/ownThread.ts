import { createRequire } from 'node:module'
import { pathToFileURL } from 'node:url'
import { Worker, type ResourceLimits } from 'node:worker_threads'
import { ownProgram } from './place.ts'

/** A thread does not take over how its process reads TypeScript: it is told first. */
function reading(file: string): string {
  const tsxApi = createRequire(import.meta.url)
    .resolve('tsx/esm/api')
    .replace(/\.cjs$/, '.mjs')
  return `import(${JSON.stringify(pathToFileURL(tsxApi).href)}).then(({ register }) => {
    register()
    return import(${JSON.stringify(pathToFileURL(file).href)})
  }).catch((fault) => setImmediate(() => { throw fault }))`
}

/** A thread of the project, by the path of its module without an ending. */
export function ownThread(path: string, workerData: unknown, resourceLimits: ResourceLimits = {}): Worker {
  const { file, execArgv } = ownProgram(path)
  return execArgv.length === 0
    ? new Worker(file, { workerData, resourceLimits })
    : new Worker(reading(file), { eval: true, workerData, resourceLimits })
}
