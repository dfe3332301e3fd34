import { connect, createServer, type AddressInfo } from 'node:net'

export interface CuttingProxy {
  readonly port: number
  /** How many have connected. */
  connections(): number
  /** Each line is cut after so many bytes from the server; null: none is. */
  cutAfter(bytes: number | null): void
  close(): Promise<void>
}

/** A line to a server on this machine that can be cut in the middle. */
export async function startCuttingProxy(to: number): Promise<CuttingProxy> {
  let most: number | null = null
  let count = 0
  const open = new Set<() => void>()
  const server = createServer((client) => {
    count += 1
    const target = connect(to, '127.0.0.1')
    let passed = 0
    const end = () => {
      open.delete(end)
      client.destroy()
      target.destroy()
    }
    open.add(end)
    client
      .on('data', (bytes) => target.write(bytes))
      .on('error', end)
      .on('close', end)
    target
      .on('data', (bytes: Buffer) => {
        const left = most === null ? bytes.length : most - passed
        passed += bytes.length
        client.write(bytes.subarray(0, Math.max(0, left)))
        if (left < bytes.length) setImmediate(end)
      })
      .on('error', end)
      .on('close', end)
  })
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', resolve)
  })
  return {
    port: (server.address() as AddressInfo).port,
    connections: () => count,
    cutAfter: (bytes) => void (most = bytes),
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve())
        for (const end of open) end()
      }),
  }
}
