import type { ReactNode } from 'react'
import { Link } from 'react-router'
import table from './timetable.module.css'

interface SetUpPageProps {
  /** What the page is about; after links, where it lies deeper. */
  readonly title: ReactNode
  /** What stands beside the title, such as a field to find something by. */
  readonly beside?: ReactNode
  readonly children: ReactNode
}

/** A page of Set-up, with the way back to it. */
export function SetUpPage({ title, beside, children }: SetUpPageProps) {
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>
          <Link to="/set-up">Set-up</Link> · {title}
        </h1>
        {beside}
      </div>
      {children}
    </div>
  )
}
