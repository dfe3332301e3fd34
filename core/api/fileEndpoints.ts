import { z } from 'zod'
import { actsAsked } from './actEndpoints.ts'
import { giveOut } from './described.ts'
import type { ClientPageEndpoint } from './endpoint.ts'

/** What is given out in formats of its own. */
export const fileEndpoints = {
  changes: giveOut({
    path: '/api/changes',
    summary: 'Server-sent events: which topics have changed',
    type: 'text/event-stream',
  }),
  openApi: giveOut({ path: '/api/openapi.json', summary: 'This description', type: 'application/json' }),
  file: giveOut({ path: '/api/files/:id', summary: 'A picture or file of a letter', type: '*/*' }),
  mailHtml: giveOut({
    path: '/api/mail/:id/html',
    summary: 'The HTML part of a message in the post office, for a sandboxed frame',
    type: 'text/html',
  }),
  messageFile: giveOut({
    path: '/api/sends/:id/message.eml',
    summary: 'A message as it went',
    type: 'message/rfc822',
  }),
  incomingMail: giveOut({
    path: '/api/incoming/:id/mail.eml',
    summary: 'A mail as it came in',
    type: 'message/rfc822',
  }),
  incomingHtml: giveOut({
    path: '/api/incoming/:id/html',
    summary: 'The HTML part of a mail that came in, for a sandboxed frame',
    type: 'text/html',
  }),
  incomingFile: giveOut({
    path: '/api/incoming/:id/files/:index',
    summary: 'A file that came with a mail',
    type: 'application/octet-stream',
  }),
  signedCopy: giveOut({
    path: '/api/signings/:id/document.pdf',
    summary: 'The copy of a signed document',
    type: 'application/pdf',
  }),
  messagesFile: giveOut({
    path: '/api/clients/:id/messages.mbox',
    summary: 'All messages that went to a client',
    type: 'application/mbox',
  }),
  actsFile: giveOut({
    path: '/api/acts.csv',
    summary: 'The record of acts as a table',
    query: actsAsked.strict(),
    type: 'text/csv',
    access: 'owner',
  }),
  clientsTable: giveOut({
    path: '/api/out/clients.csv',
    summary: 'All clients as a table',
    type: 'text/csv',
    access: 'owner',
  }),
  bookingsTable: giveOut({
    path: '/api/out/bookings.csv',
    summary: 'All bookings as a table',
    type: 'text/csv',
    access: 'owner',
  }),
  enquiriesTable: giveOut({
    path: '/api/out/enquiries.csv',
    summary: 'All enquiries as a table',
    type: 'text/csv',
    access: 'owner',
  }),
  invoicesTable: giveOut({
    path: '/api/out/invoices.csv',
    summary: 'All invoices as a table',
    type: 'text/csv',
    access: 'owner',
  }),
  messagesTable: giveOut({
    path: '/api/out/messages.csv',
    summary: 'All messages with their states and reasons as a table',
    type: 'text/csv',
    access: 'owner',
  }),
  clientCards: giveOut({
    path: '/api/out/clients.vcf',
    summary: 'All clients as cards',
    type: 'text/vcard',
    access: 'owner',
  }),
  allMessages: giveOut({
    path: '/api/out/messages.mbox',
    summary: 'All e-mails as they went',
    type: 'application/mbox',
    access: 'owner',
  }),
  wholeBusiness: giveOut({
    path: '/api/out/business.json',
    summary: 'The whole business, to be read by a fresh Vorfreude; without passwords and keys',
    type: 'application/json',
    access: 'owner',
  }),
  letterFile: giveOut({
    path: '/api/letters/:id/message.eml',
    summary: 'A letter as it would go to a client',
    query: z.object({ clientId: z.string().max(64), bookingId: z.string().max(64).optional() }).strict(),
    type: 'message/rfc822',
  }),
} as const

/** What a program that watches over the house asks, at home and without signing in. */
export const houseEndpoints = {
  health: {
    methods: ['GET'],
    path: '/healthz',
    summary: 'Whether everything goes on: 200, or 503 with what does not',
    type: 'application/json',
  },
  metrics: {
    methods: ['GET'],
    path: '/metrics',
    summary: 'Measures in the text format of OpenMetrics and Prometheus',
    type: 'text/plain',
  },
} as const satisfies Readonly<Record<string, ClientPageEndpoint>>

/** The public page, and the pages behind the links of messages. */
export const clientPageEndpoints: readonly ClientPageEndpoint[] = [
  {
    methods: ['GET', 'POST'],
    path: '/choose/:token',
    summary: 'Where a client ends promotional mail',
    type: 'text/html',
  },
  {
    methods: ['GET'],
    path: '/to/:token',
    summary: 'Where a link of a message leads from, to what that message held and nowhere else',
    type: 'text/html',
  },
  {
    methods: ['GET'],
    path: '/seen/:token',
    summary: 'The picture of a message that tells that it was opened',
    type: 'image/gif',
  },
  { methods: ['GET'], path: '/yours/:token', summary: 'A booking, for its client', type: 'text/html' },
  {
    methods: ['GET'],
    path: '/yours/:token/appointment.ics',
    summary: 'A booking for a calendar',
    type: 'text/calendar',
  },
  {
    methods: ['GET', 'POST'],
    path: '/yours/:token/confirm',
    summary: 'Where a client confirms a booking that waits for that',
    type: 'text/html',
  },
  {
    methods: ['GET', 'POST'],
    path: '/yours/:token/cancel',
    summary: 'Where a client cancels a booking',
    type: 'text/html',
  },
  {
    methods: ['GET', 'POST'],
    path: '/yours/:token/move',
    summary: 'Where a client moves a booking to another free time',
    type: 'text/html',
  },
  {
    methods: ['GET'],
    path: '/yours/:token/again',
    summary: 'The way from a booking to booking again',
    type: 'text/html',
  },
  {
    methods: ['GET'],
    path: '/feed/:token/bookings.ics',
    summary: 'Bookings of the team, for a calendar that only reads them',
    type: 'text/calendar',
  },
  { methods: ['GET'], path: '/all/:token', summary: 'All bookings of a client', type: 'text/html' },
  {
    methods: ['GET'],
    path: '/pay/:token',
    summary: 'An invoice for its client, and the way to pay it',
    type: 'text/html',
  },
  {
    methods: ['GET', 'POST'],
    path: '/sign/:token',
    summary: 'A document for its client to sign',
    type: 'text/html',
  },
  {
    methods: ['GET'],
    path: '/sign/:token/document.pdf',
    summary: 'The copy of a signed document for its client',
    type: 'application/pdf',
  },
  {
    methods: ['POST'],
    path: '/hooks/payments',
    summary: 'Where the page for paying tells, signed, what came of it',
    type: 'application/json',
  },
  {
    methods: ['GET', 'POST'],
    path: '/ask/:id',
    summary: 'A form for who asks for something',
    type: 'text/html',
  },
  {
    methods: ['GET'],
    path: '/ask/:id/thanks',
    summary: 'What is read once a form has been sent',
    type: 'text/html',
  },
  { methods: ['GET'], path: '/book', summary: 'What can be booked', type: 'text/html' },
  {
    methods: ['GET'],
    path: '/book/clock.js',
    summary: 'Tells the public page what clock the reader has',
    type: 'text/javascript',
  },
  { methods: ['GET'], path: '/book/:id', summary: 'The free times of a service', type: 'text/html' },
  {
    methods: ['GET', 'POST'],
    path: '/book/:id/details',
    summary: 'Who books, and the booking itself',
    type: 'text/html',
  },
  {
    methods: ['GET', 'POST'],
    path: '/test{/*rest}',
    summary: 'Where the links of a test copy lead',
    type: 'text/html',
  },
]
