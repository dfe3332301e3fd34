import type { ApiProblem } from '../app/api.ts'

/** What the server found wrong, by field; paths within a command's body lose the part's own name. */
export function fieldErrors(problem: ApiProblem, part?: string): Record<string, string> {
  const prefix = part === undefined ? '' : `${part}.`
  return Object.fromEntries(
    (problem.details.errors ?? []).map(({ path, detail }) => [
      path.startsWith(prefix) ? path.slice(prefix.length) : path,
      detail,
    ]),
  )
}
