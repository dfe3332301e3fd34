/*
 * What a fault in a conversation with a mail server means: whether the message is at fault or the account it goes
 * through, and whether the message can have gone. By the command at which it came and the server's answer
 * (RFC 5321 4.2.1 and 4.3.2, RFC 4954 4 and 6, RFC 3207 4, RFC 3463).
 */

/** What a mail account does not let us do; until it does, every message waits. */
export type AccountFaultKind =
  /** Not to be reached, or not for the time being. */
  | 'away'
  /** No connection that is safe: TLS or its certificate. */
  | 'unsafe'
  /** Refused before anybody has said who he is. */
  | 'not let in'
  | 'sign-in refused'
  | 'sender refused'

export interface AccountFault {
  readonly kind: 'account'
  readonly what: AccountFaultKind
  readonly answer: string
}

/** How an attempt to deliver ended. */
export type Outcome =
  /** The server has answered the final dot with 250: the message is the server's now. */
  | { readonly kind: 'accepted'; readonly answer: string }
  /** The server refused it for good. */
  | { readonly kind: 'refused'; readonly answer: string }
  /** Not now: refused for the time being, or never begun. */
  | { readonly kind: 'later'; readonly answer: string }
  /** The connection was lost once the message may have been on its way. Nobody can tell. */
  | { readonly kind: 'in doubt'; readonly answer: string }
  /** Not this message's fault: nothing goes through this account just now. */
  | AccountFault

/** Taken back before a word of it was said: nothing of it has left. */
export interface Withdrawn {
  readonly kind: 'withdrawn'
}

/** How far a conversation had come. */
export type Stage =
  | { readonly at: 'opening' }
  | { readonly at: 'signing in' }
  /** `answers`: how often the server has answered since; `hadBegun`: whether anything of the message was read. */
  | { readonly at: 'sending'; readonly answers: number; readonly hadBegun: boolean }

/** A fault as the mail library tells it. */
export interface SmtpFault extends Error {
  readonly code?: string
  /** What the system or the TLS library called it, where the mail library has a name of its own. */
  readonly originalCode?: string
  readonly command?: string
  readonly responseCode?: number
  readonly response?: string
}

/** A server may answer with pages: so much of it, in characters, tells a person enough. */
const longestAnswer = 400

/** A server's answer in one line, cut. */
export function answerOf(text: string): string {
  const line = text.replace(/\s+/g, ' ').trim()
  return line.length > longestAnswer ? `${line.slice(0, longestAnswer)} …` : line
}

/** Speaks of who we are, at whatever command it comes (RFC 4954 6). */
const signInCodes: readonly number[] = [530, 534, 535, 538]
/** Speaks of the message's size, though it comes at MAIL (RFC 1870 6.1). */
const isOfSize = ({ code, response, responseCode }: SmtpFault) =>
  code === 'EMESSAGE' || responseCode === 552 || /^5\d\d[ -]5\.(2\.3|3\.4)\b/.test(response ?? '')

const isOfTls = ({ code, originalCode, command, message }: SmtpFault) =>
  code === 'ETLS' ||
  command === 'STARTTLS' ||
  /^(ERR_TLS|ERR_SSL|EPROTO|CERT_|DEPTH_ZERO|SELF_SIGNED|UNABLE_TO_)/.test(originalCode ?? '') ||
  /certificate|ssl|tls/i.test(message)

function ofAccount(what: AccountFaultKind, answer: string): AccountFault {
  return { kind: 'account', what, answer }
}

/** 5yz is final, 4yz may pass (RFC 5321 4.2.1); without an answer it was the line. */
const isForGood = ({ responseCode }: SmtpFault) => responseCode !== undefined && responseCode >= 500

function whileOpening(fault: SmtpFault, answer: string): Outcome {
  if (isOfTls(fault)) return ofAccount('unsafe', answer)
  return ofAccount(isForGood(fault) ? 'not let in' : 'away', answer)
}

function whileSending(fault: SmtpFault, answer: string, answers: number, hadBegun: boolean): Outcome {
  const code = fault.responseCode
  // Refused here, before a word of it was said: an address nobody can have, a message that is too large.
  if (code === undefined && (fault.code === 'EENVELOPE' || fault.code === 'EMESSAGE')) {
    return { kind: 'refused', answer }
  }
  if (code === undefined) {
    if (hadBegun) return { kind: 'in doubt', answer }
    return answers === 0 ? ofAccount('away', answer) : { kind: 'later', answer }
  }
  if (signInCodes.includes(code)) return ofAccount('sign-in refused', answer)
  if (fault.command === 'MAIL FROM' && !isOfSize(fault)) {
    return ofAccount(isForGood(fault) ? 'sender refused' : 'away', answer)
  }
  // 503 speaks of the session and not of the message.
  return { kind: code >= 500 && code !== 503 ? 'refused' : 'later', answer }
}

/** What a failed attempt means, and whose fault it is. */
export function outcomeOfFault(fault: SmtpFault, stage: Stage): Outcome {
  const answer = answerOf(fault.response ?? fault.message)
  switch (stage.at) {
    case 'opening':
      return whileOpening(fault, answer)
    case 'signing in':
      // Refused here: no way of signing in that both know.
      return ofAccount(isForGood(fault) || fault.command === 'API' ? 'sign-in refused' : 'away', answer)
    case 'sending':
      return whileSending(fault, answer, stage.answers, stage.hadBegun)
  }
}
