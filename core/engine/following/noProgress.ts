import type { Reason } from '../../model/send.ts'

/**
 * How often one message can come up to be sent before it is taken for one that gets no further: planning takes it up,
 * the check ends it, and so on for ever. Attempts that a mail server asks to repeat are far fewer.
 */
export const mostClaims = 50

export const noProgress: Reason = {
  code: 'no progress',
  sentence:
    'It came up to be sent again and again and got no further. It was stopped so that the others go; look at why it is planned, then send or skip it.',
}
