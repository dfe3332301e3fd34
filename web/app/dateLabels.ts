import { useAsk } from './queries.ts'

/** What yearly dates are called here, to choose from; capitals make no difference. */
export function useDateLabels(): readonly string[] {
  const settings = useAsk('settings')
  const inUse = (settings.data?.namesInUse ?? [])
    .filter(({ kind }) => kind === 'date')
    .map(({ name }) => name)
  const all = ['birthday', ...inUse]
  return all.filter(
    (name, index) => all.findIndex((one) => one.toLowerCase() === name.toLowerCase()) === index,
  )
}
