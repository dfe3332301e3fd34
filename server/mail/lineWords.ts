import type { SmtpFault } from './whoseFault.ts'

/* Why no line to a mail server comes about, in plain words: the same for those that take mail and those that keep it. */

type Words = readonly (readonly [RegExp, string])[]

/** Why a certificate is not believed, by what the TLS library calls it. */
const certificateWords: Words = [
  [
    /SELF_SIGNED|UNABLE_TO_VERIFY|UNABLE_TO_GET_ISSUER/,
    'Nobody we know vouches for the server’s certificate: it may be another server in between.',
  ],
  [/CERT_HAS_EXPIRED/, 'The server’s certificate has expired: who runs it has to renew it.'],
  [/CERT_NOT_YET_VALID/, 'The server’s certificate is not valid yet: one of the two clocks is wrong.'],
  [/ALTNAME/, 'The server’s certificate is for another name: give the server by the name that stands in it.'],
  [
    /WRONG_VERSION|PACKET_LENGTH|UNKNOWN_PROTOCOL|UNSUPPORTED_PROTOCOL/,
    'Nothing there speaks TLS from the first byte: “TLS after the greeting” may be what this port wants.',
  ],
]

const reachWords: Words = [
  [/ENOTFOUND|EAI_AGAIN|EDNS/, 'There is no server of this name, or names cannot be looked up just now.'],
  [/ECONNREFUSED/, 'Nothing answers at this port.'],
  [/EHOSTUNREACH|ENETUNREACH/, 'There is no way to this server from here.'],
]

type Said = Partial<Pick<SmtpFault, 'code' | 'originalCode'>> & Pick<SmtpFault, 'message'>

const found = (words: Words, { code, originalCode, message }: Said, otherwise: string) => {
  const said = [originalCode, code, message].filter(Boolean).join(' ')
  return words.find(([pattern]) => pattern.test(said))?.[1] ?? otherwise
}

/** Why there is no safe line. */
export const unsafeSentence = (fault: Said) =>
  found(certificateWords, fault, 'No safe line came about: the server offers no TLS here.')

/** Why there is no line at all. `ports`: what the usual ports want, said where it does not answer in time. */
export const unreachedSentence = (fault: Said, ports: string, otherwise: string) =>
  found(
    [
      ...reachWords,
      [
        /ETIMEDOUT|CONNECT_TIMEOUT|timed? ?out|too long|never received/i,
        `It does not answer in time. ${ports}`,
      ],
    ],
    fault,
    otherwise,
  )

/** What was refused, whoever asks. */
export const signInSentence =
  'It refuses the user or the password. Many servers want a password made for programs.'
