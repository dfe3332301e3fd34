/** A refusal of a mail server that takes mail, with its reply code (RFC 5321 4.2). */
export class SmtpRefusal extends Error {
  constructor(
    readonly responseCode: number,
    words: string,
  ) {
    super(words)
  }
}
