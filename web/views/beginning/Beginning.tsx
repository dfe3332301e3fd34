import { Button } from '@mantine/core'
import { Link, useNavigate, useParams } from 'react-router'
import { beginningSteps, type BeginningLine, type BeginningStep } from '#core/insight/beginning.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { beginningPages, beginningPath } from '../../parts/beginningSteps.ts'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import styles from './Beginning.module.css'
import { stepContents } from './stepContents.tsx'

function Steps({ lines, present }: { lines: readonly BeginningLine[]; present: BeginningStep }) {
  return (
    <nav className={table.sheet} aria-label="First steps">
      <ol className={styles.steps}>
        {lines.map(({ step, isDone }) => (
          <li key={step}>
            <Link to={beginningPath(step)} aria-current={step === present ? 'step' : undefined}>
              <span aria-hidden>{isDone ? '✓' : '○'}</span>
              <span>
                {beginningPages[step].word}
                <span className={styles.state}>{isDone ? 'is there' : 'is missing'}</span>
              </span>
            </Link>
          </li>
        ))}
      </ol>
    </nav>
  )
}

interface FootProps {
  /** Where the page before it is; null: it is the first. */
  readonly back: string | null
  readonly next: string
  /** What leads there. */
  readonly word: string
  readonly isDone: boolean
}

/** To the next page, also where this one is left for later. */
function Foot({ back, next, word, isDone }: FootProps) {
  return (
    <div className={styles.foot}>
      {back !== null && (
        <Button variant="default" component={Link} to={back}>
          Back
        </Button>
      )}
      <Button variant={isDone ? 'filled' : 'default'} component={Link} to={next}>
        {isDone ? word : 'Leave it for later'}
      </Button>
    </div>
  )
}

/** The first steps of a business, a page each: skipped, gone back to and found again at any time. */
export default function Beginning() {
  const { isOwner, session } = useBusiness()
  const navigate = useNavigate()
  const { step: slug } = useParams()
  const { data, error, refetch } = useAsk('beginning', {}, { enabled: isOwner && !session.isDemo })
  if (!isOwner || session.isDemo) {
    const title = isOwner
      ? 'The demo has its first steps behind it.'
      : 'Only the owner sees to the first steps.'
    return (
      <EmptyState title={title}>
        <p>
          <Link to="/desk">To the Desk</Link>
        </p>
      </EmptyState>
    )
  }
  if (error) return <ErrorState problem={error} onAgain={() => void refetch()} />
  if (!data) return <Waiting />
  const named = beginningSteps.find((step) => beginningPages[step].slug === slug)
  const present = named ?? data.steps.find(({ isDone }) => !isDone)?.step ?? 'business'
  const missing = data.steps.filter(({ isDone }) => !isDone).length
  const Content = stepContents[present]
  const at = beginningSteps.indexOf(present)
  const [before, after] = [beginningSteps[at - 1], beginningSteps[at + 1]]
  const next = after ? beginningPath(after) : '/desk'
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>First steps · {beginningPages[present].word}</h1>
      </div>
      <p className={table.quiet}>
        {missing === 0
          ? 'Everything is there: messages reach clients.'
          : `Until messages reach clients ${missing === 1 ? '1 thing is' : `${missing} things are`} missing. None does before there is a mail account and you have switched sending on.`}
      </p>
      <div className={styles.columns}>
        <Steps lines={data.steps} present={present} />
        <div className={styles.content}>
          <Content key={present} onDone={() => void navigate(next)} />
          <Foot
            back={before ? beginningPath(before) : null}
            next={next}
            word={after ? 'Next' : 'To the Desk'}
            isDone={data.steps[at]?.isDone ?? false}
          />
        </div>
      </div>
    </div>
  )
}
