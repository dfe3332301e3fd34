/** A stand-in ends with the process that started it, and by nothing else. */
export function whenLeft(close: () => Promise<unknown>) {
  process.on('SIGINT', () => undefined)
  process.on('SIGTERM', () => undefined)
  process.on('disconnect', () => {
    void close().then(() => process.exit(0))
    setTimeout(() => process.exit(0), 2000).unref()
  })
}
