import { MantineProvider } from '@mantine/core'
import { QueryClientProvider } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import { BrowserRouter, Navigate, Route, Routes } from 'react-router'
import { ErrorState, Waiting } from '../parts/States.tsx'
import { rememberCsrfToken } from './api.ts'
import { Frame } from './Frame.tsx'
import { useHasNotices } from './notices.ts'
import { queryClient, useAsk } from './queries.ts'
import { theme } from './theme.ts'

const Notices = lazy(() => import('./Notices.tsx'))
const SignIn = lazy(() => import('../views/session/SignIn.tsx'))
const FirstRun = lazy(() => import('../views/session/FirstRun.tsx'))
const Desk = lazy(() => import('../views/desk/Desk.tsx'))
const Ahead = lazy(() => import('../views/ahead/Ahead.tsx'))
const Bookings = lazy(() => import('../views/bookings/Bookings.tsx'))
const BookingPage = lazy(() => import('../views/bookings/BookingPage.tsx'))
const Clients = lazy(() => import('../views/clients/Clients.tsx'))
const ClientPage = lazy(() => import('../views/clients/ClientPage.tsx'))
const FromMail = lazy(() => import('../views/letters/FromMail.tsx'))
const Letters = lazy(() => import('../views/letters/Letters.tsx'))
const LetterPage = lazy(() => import('../views/letters/LetterPage.tsx'))
const Sequences = lazy(() => import('../views/sequences/Sequences.tsx'))
const SequencePage = lazy(() => import('../views/sequences/SequencePage.tsx'))
const Services = lazy(() => import('../views/setup/Services.tsx'))
const Mailbox = lazy(() => import('../views/mailbox/Mailbox.tsx'))
const NotFound = lazy(() => import('../views/session/NotFound.tsx'))

function Views() {
  return (
    <Suspense fallback={<Waiting />}>
      <Routes>
        <Route path="/" element={<Navigate to="/desk" replace />} />
        <Route path="/desk/:group?/:sendId?" element={<Desk />} />
        <Route path="/ahead" element={<Ahead />} />
        <Route path="/bookings/:mode?" element={<Bookings />} />
        <Route path="/booking/:id" element={<BookingPage />} />
        <Route path="/clients/:mode?" element={<Clients />} />
        <Route path="/client/:id/:mode?" element={<ClientPage />} />
        <Route path="/letters" element={<Letters />} />
        <Route path="/letters/from-mail" element={<FromMail />} />
        <Route path="/letter/:id" element={<LetterPage />} />
        <Route path="/sequences" element={<Sequences />} />
        <Route path="/sequence/:id" element={<SequencePage />} />
        <Route path="/set-up" element={<Services />} />
        <Route path="/mailbox/:address/:mailId?" element={<Mailbox />} />
        <Route path="*" element={<NotFound />} />
      </Routes>
    </Suspense>
  )
}

function Gate() {
  const session = useAsk('session')
  if (session.error) return <ErrorState problem={session.error} onAgain={() => void session.refetch()} />
  if (!session.data) return <Waiting />
  rememberCsrfToken(session.data.csrfToken)
  const { needsFirstRun, person } = session.data
  if (needsFirstRun || !person) {
    return (
      <Suspense fallback={<Waiting />}>
        {needsFirstRun ? <FirstRun /> : <SignIn session={session.data} />}
      </Suspense>
    )
  }
  return (
    <Frame session={session.data}>
      <Views />
    </Frame>
  )
}

export function App() {
  const hasNotices = useHasNotices()
  return (
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <QueryClientProvider client={queryClient}>
        <BrowserRouter>
          <Suspense fallback={null}>{hasNotices && <Notices />}</Suspense>
          <Gate />
        </BrowserRouter>
      </QueryClientProvider>
    </MantineProvider>
  )
}
