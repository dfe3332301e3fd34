import { handOver as handOverTo } from '../standins/handOver.ts'

/** What a mail server answered with a no, or what else went wrong. */
const wordsOf = (fault: unknown): string => {
  const { response, message } = fault as { readonly response?: string; readonly message: string }
  return response ?? message
}

/** Hands a mail over to a mail server on this machine; returns its answer, or with which words it said no. */
export const handOver = (
  port: number,
  source: Buffer,
  { from = 'enno@brackwater.example', to = 'hello@kiteworks.example' } = {},
): Promise<string> => handOverTo(port, source, { from, to }).catch(wordsOf)
