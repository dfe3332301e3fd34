import SMTPConnection from 'nodemailer/lib/smtp-connection'

/** Hands a mail over to a mail server on this machine; returns its answer. Throws where it says no. */
export function handOver(
  port: number,
  source: Buffer,
  { from, to }: { readonly from: string; readonly to: string },
): Promise<string> {
  const connection = new SMTPConnection({ host: '127.0.0.1', port, ignoreTLS: true })
  return new Promise<string>((resolve, reject) => {
    connection.on('error', reject)
    connection.connect(() => {
      connection.send({ from, to: [to] }, source, (fault, info) =>
        fault ? reject(fault) : resolve(info.response),
      )
    })
  }).finally(() => connection.close())
}
