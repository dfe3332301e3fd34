import { Link } from 'react-router'
import { SetUpPage } from '../../parts/SetUpPage.tsx'
import { Keys } from './Keys.tsx'
import { WebCalls } from './WebCalls.tsx'

/** How other programs ask Vorfreude, and how it tells them something. */
export default function Programs() {
  return (
    <SetUpPage
      title="Other programs"
      beside={
        <>
          <Link to="/set-up/programs/api">What they can ask</Link>
        </>
      }
    >
      <Keys />
      <WebCalls />
    </SetUpPage>
  )
}
