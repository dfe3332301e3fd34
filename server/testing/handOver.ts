import SMTPConnection from 'nodemailer/lib/smtp-connection'

/** Hands a mail over to a mail server on this machine; returns its answer, or with which words it said no. */
export function handOver(
  port: number,
  source: Buffer,
  { from = 'enno@brackwater.example', to = 'hello@kiteworks.example' } = {},
): Promise<string> {
  const connection = new SMTPConnection({ host: '127.0.0.1', port, ignoreTLS: true })
  return new Promise((resolve) => {
    const end = (words: string) => {
      connection.close()
      resolve(words)
    }
    connection.on('error', (fault: Error) => end(fault.message))
    connection.connect(() => {
      connection.send({ from, to: [to] }, source, (fault, info) =>
        end(fault ? ((fault as { response?: string }).response ?? fault.message) : info.response),
      )
    })
  })
}
