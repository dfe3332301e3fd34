import { isIP } from 'node:net'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { generate } from 'selfsigned'
import { testFolder } from './seed.ts'

export interface OwnCertificate {
  readonly key: string
  readonly cert: string
  /** Where the certificate lies, for who is to believe it. */
  readonly file: string
}

/** A certificate nobody vouches for but itself, for the names a server is reached by. */
export async function makeCertificate(names: readonly [string, ...string[]]): Promise<OwnCertificate> {
  const { private: key, cert } = await generate([{ name: 'commonName', value: names[0] }], {
    keyType: 'ec',
    extensions: [
      { name: 'basicConstraints', cA: true },
      {
        name: 'subjectAltName',
        altNames: names.map((name) => (isIP(name) > 0 ? { type: 7, ip: name } : { type: 2, value: name })),
      },
    ],
  })
  const file = join(testFolder(), 'cert.pem')
  writeFileSync(file, cert)
  return { key, cert, file }
}
