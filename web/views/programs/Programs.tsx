import { Link } from 'react-router'
import table from '../../parts/timetable.module.css'
import { Keys } from './Keys.tsx'
import { WebCalls } from './WebCalls.tsx'

/** How other programs ask Vorfreude, and how it tells them something. */
export default function Programs() {
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>
          <Link to="/set-up">Set-up</Link> · Other programs
        </h1>
        <Link to="/set-up/programs/api">What they can ask</Link>
      </div>
      <Keys />
      <WebCalls />
    </div>
  )
}
