import { MantineProvider } from '@mantine/core'
import { QueryClientProvider, useIsMutating } from '@tanstack/react-query'
import { lazy, Suspense, useEffect } from 'react'
import { BrowserRouter, Navigate, Route, Routes, useLocation } from 'react-router'
import { ErrorState, Waiting } from '../parts/States.tsx'
import { rememberCsrfToken } from './api.ts'
import { FaultBoundary } from './FaultBoundary.tsx'
import { Frame } from './Frame.tsx'
import { useHasNotices } from './notices.ts'
import { queryClient, rememberSignedIn, signingOut, useAsk } from './queries.ts'
import { theme } from './theme.ts'
import { views } from './views.ts'

const Notices = lazy(() => import('./Notices.tsx'))
const SignIn = lazy(() => import('../views/session/SignIn.tsx'))
const ComeIn = lazy(() => import('../views/session/ComeIn.tsx'))
const FirstRun = lazy(() => import('../views/session/FirstRun.tsx'))

function Views() {
  const { pathname } = useLocation()
  return (
    // Another section may well be there.
    <FaultBoundary key={pathname.split('/')[1]}>
      <Suspense fallback={<Waiting />}>
        <Routes>
          <Route path="/" element={<Navigate to="/desk" replace />} />
          {views.map(({ path, View }) => (
            <Route key={path} path={path} element={<View />} />
          ))}
        </Routes>
      </Suspense>
    </FaultBoundary>
  )
}

function Gate() {
  const session = useAsk('session')
  const isLeaving = useIsMutating({ mutationKey: signingOut }) > 0
  const isSignedIn = session.data ? session.data.person !== null : null
  useEffect(() => {
    if (isSignedIn !== null) rememberSignedIn(isSignedIn)
  }, [isSignedIn])
  if (session.error) return <ErrorState problem={session.error} onAgain={() => void session.refetch()} />
  if (!session.data || isLeaving) return <Waiting />
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
          <FaultBoundary>
            <Routes>
              <Route
                path="/come-in"
                element={
                  <Suspense fallback={<Waiting />}>
                    <ComeIn />
                  </Suspense>
                }
              />
              <Route path="*" element={<Gate />} />
            </Routes>
          </FaultBoundary>
        </BrowserRouter>
      </QueryClientProvider>
    </MantineProvider>
  )
}
