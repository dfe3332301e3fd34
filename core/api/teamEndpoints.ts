import { z } from 'zod'
import { personId } from '../model/business.ts'
import { instant } from '../model/values.ts'
import { newPassword, signInCode, wayInPurpose } from '../model/wayIn.ts'
import { ask, nothing, tell } from './described.ts'
import { sessionView } from './views.ts'

const token = z.string().min(1).max(200)
/** Proof that it is the person themselves who asks. */
const present = z.string().max(200)

/** How somebody of the team gets in. */
const wayIn = z.object({
  personId,
  hasPassword: z.boolean(),
  hasSecondFactor: z.boolean(),
  /** Until when an invitation that was not used yet leads somewhere, in real time; null: there is none. */
  invitedUntil: instant.nullable(),
})

/** Who gets in, and how: invitations, new passwords, second factors. */
export const teamEndpoints = {
  waysIn: ask({
    path: '/api/team',
    summary: 'How each of the team gets in',
    answer: z.object({ people: z.array(wayIn) }),
    access: 'owner',
  }),
  invite: tell({
    path: '/api/team/:id/invitation',
    summary:
      'Give somebody of the team a link by which to choose a password; an earlier one leads nowhere then',
    answer: z.object({
      url: z.string(),
      until: instant,
      /** Why it was not sent by mail; null: it was. */
      notSent: z.string().nullable(),
    }),
    access: 'owner',
    byKey: false,
  }),
  endSecondFactorOf: tell({
    path: '/api/team/:id/no-second-factor',
    summary: 'Let somebody in without their second factor, as when a telephone is lost',
    answer: nothing,
    access: 'owner',
    byKey: false,
  }),
  forgotten: tell({
    path: '/api/way-in/forgotten',
    summary: 'Send a link for a new password; the answer is the same whether the address is known',
    body: z.object({ email: z.string().max(254) }).strict(),
    answer: nothing,
    access: 'anybody',
    isRecorded: false,
  }),
  lookAtWayIn: tell({
    path: '/api/way-in/look',
    summary: 'Whose a link by which to choose a password is',
    body: z.object({ token }).strict(),
    answer: z.object({
      purpose: wayInPurpose,
      name: z.string(),
      email: z.string(),
      businessName: z.string(),
    }),
    access: 'anybody',
    isRecorded: false,
  }),
  takeWayIn: tell({
    path: '/api/way-in',
    summary: 'Choose a password by such a link, and come in where no second factor is asked for',
    body: z.object({ token, password: newPassword }).strict(),
    answer: sessionView,
    access: 'anybody',
    isRecorded: false,
  }),
  secondFactor: ask({
    path: '/api/session/second-factor',
    summary: 'Whether the person who asks gives a code besides the password',
    answer: z.object({ isOn: z.boolean(), recoveryWordsLeft: z.number().int() }),
    byKey: false,
  }),
  beginSecondFactor: tell({
    path: '/api/session/second-factor/begin',
    summary:
      'A secret for an authenticator of the person who asks (RFC 6238); it counts once a code confirms it',
    body: z.object({ present }).strict(),
    answer: z.object({ secret: z.string(), uri: z.string() }),
    access: 'signed in',
    byKey: false,
  }),
  confirmSecondFactor: tell({
    path: '/api/session/second-factor',
    summary: 'A code of the authenticator: from now on one is asked for',
    body: z.object({ code: signInCode }).strict(),
    answer: z.object({ recoveryWords: z.array(z.string()) }),
    access: 'signed in',
    byKey: false,
  }),
  endSecondFactor: tell({
    path: '/api/session/second-factor/end',
    summary: 'The password alone lets the person who asks in again',
    body: z.object({ present }).strict(),
    answer: nothing,
    access: 'signed in',
    byKey: false,
  }),
} as const
