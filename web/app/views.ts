import { lazy, type ComponentType } from 'react'
import { matchPath } from 'react-router'

interface Loading {
  readonly path: string
  readonly load: () => Promise<{ default: ComponentType }>
}

/** Every page of the frame by its address; each is fetched when it is first opened. */
const loading: readonly Loading[] = [
  { path: '/desk/:group?/:sendId?', load: () => import('../views/desk/Desk.tsx') },
  { path: '/ahead', load: () => import('../views/ahead/Ahead.tsx') },
  { path: '/begin/:step?', load: () => import('../views/beginning/Beginning.tsx') },
  { path: '/bookings/bring-in', load: () => import('../views/bookings/BringIn.tsx') },
  { path: '/bookings/:mode?', load: () => import('../views/bookings/Bookings.tsx') },
  { path: '/booking/:id', load: () => import('../views/bookings/BookingPage.tsx') },
  { path: '/clients/bring-in', load: () => import('../views/clients/BringIn.tsx') },
  { path: '/clients/:mode?', load: () => import('../views/clients/Clients.tsx') },
  { path: '/client/:id/:mode?', load: () => import('../views/clients/ClientPage.tsx') },
  { path: '/pipeline/:id?', load: () => import('../views/pipeline/Pipeline.tsx') },
  { path: '/enquiry/:id', load: () => import('../views/pipeline/EnquiryPage.tsx') },
  { path: '/letters', load: () => import('../views/letters/Letters.tsx') },
  { path: '/letters/from-mail', load: () => import('../views/letters/FromMail.tsx') },
  { path: '/letter/:id', load: () => import('../views/letters/LetterPage.tsx') },
  { path: '/sequences', load: () => import('../views/sequences/Sequences.tsx') },
  { path: '/sequence/:id', load: () => import('../views/sequences/SequencePage.tsx') },
  { path: '/set-up', load: () => import('../views/setup/Services.tsx') },
  { path: '/set-up/acts', load: () => import('../views/setup/Acts.tsx') },
  { path: '/set-up/business', load: () => import('../views/setup/BusinessPage.tsx') },
  { path: '/set-up/mail', load: () => import('../views/setup/MailAccountPage.tsx') },
  { path: '/set-up/answers', load: () => import('../views/setup/AnswersPage.tsx') },
  { path: '/set-up/answers/:id', load: () => import('../views/setup/IncomingMailboxPage.tsx') },
  { path: '/set-up/mail/:id', load: () => import('../views/setup/FurtherAccountPage.tsx') },
  { path: '/set-up/safety', load: () => import('../views/setup/SafetyPage.tsx') },
  { path: '/set-up/programs', load: () => import('../views/programs/Programs.tsx') },
  { path: '/set-up/programs/api', load: () => import('../views/programs/Description.tsx') },
  { path: '/set-up/person/:id', load: () => import('../views/setup/PersonPage.tsx') },
  { path: '/set-up/status/:id', load: () => import('../views/setup/StatusPage.tsx') },
  { path: '/set-up/document/:id', load: () => import('../views/setup/DocumentPage.tsx') },
  { path: '/set-up/form/:id', load: () => import('../views/setup/FormPage.tsx') },
  { path: '/set-up/move/:id', load: () => import('../views/setup/MovePage.tsx') },
  { path: '/set-up/pipeline/:id', load: () => import('../views/setup/PipelinePage.tsx') },
  { path: '/set-up/service/:id', load: () => import('../views/setup/ServicePage.tsx') },
  { path: '/mailbox/:address/:mailId?', load: () => import('../views/mailbox/Mailbox.tsx') },
  { path: '*', load: () => import('../views/session/NotFound.tsx') },
]

export const views = loading.map(({ path, load }) => ({ path, View: lazy(load) }))

/** Fetches the page at an address while it is still being found out who asks. */
export function fetchViewAt(pathname: string) {
  const found = loading.find(({ path }) => matchPath(path, pathname === '/' ? '/desk' : pathname))
  // Where it fails now it is asked for again, and said, when it is shown.
  found?.load().catch(() => undefined)
}
