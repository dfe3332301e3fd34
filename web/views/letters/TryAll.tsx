import { Button, Progress } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import { fieldInfo } from '#core/letters/fieldList.ts'
import type { MergeFacts } from '#core/letters/fields.ts'
import type { LetterContent, Passage } from '#core/model/letter.ts'
import { call } from '../../app/api.ts'
import { useAsk } from '../../app/queries.ts'
import styles from './letters.module.css'
import type { Trial, TrialShare } from './tryAll.ts'
import { packedZones } from '#core/time/realZones.ts'
import type { TrialAnswer, TrialQuestion } from './tryAll.worker.ts'

interface Progressing {
  readonly tried: number
  readonly total: number
  readonly found: readonly Trial[]
  readonly isRunning: boolean
}

/** More than so many lines help nobody. */
const mostLines = 200

function words({ held, lacking, hasNoAddress }: Trial): string {
  const names = (fields: Trial['held']) => fields.map((field) => fieldInfo(field).label).join(', ')
  return [
    held.length > 0 ? `held: ${names(held)} is missing` : '',
    lacking.length > 0 ? `without ${names(lacking)}` : '',
    hasNoAddress ? 'no e-mail address' : '',
  ]
    .filter(Boolean)
    .join(' · ')
}

interface TryAllProps {
  readonly content: LetterContent
  readonly passages: readonly Passage[]
  readonly facts: MergeFacts | null
}

/** Gives the worker one page of clients after the other, until all are with it or it is another's turn. */
async function feed(own: Worker, isStill: () => boolean, onTotal: (total: number) => void) {
  let after: string | null = ''
  while (after !== null && isStill()) {
    const page: Awaited<ReturnType<typeof call<'audience'>>> = await call('audience', {
      query: after === '' ? {} : { after },
    })
    onTotal(page.total)
    const question: TrialQuestion = { kind: 'rows', rows: page.rows }
    own.postMessage(question)
    after = page.next
  }
}

function useTrial() {
  const [state, setState] = useState<Progressing | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const worker = useRef<Worker | null>(null)
  useEffect(() => () => worker.current?.terminate(), [])
  const stop = () => {
    worker.current?.terminate()
    worker.current = null
    setState((before) => before && { ...before, isRunning: false })
  }
  const begin = (share: TrialShare) => {
    worker.current?.terminate()
    const own = new Worker(new URL('./tryAll.worker.ts', import.meta.url), { type: 'module' })
    worker.current = own
    setProblem(null)
    setState({ tried: 0, total: 0, found: [], isRunning: true })
    own.addEventListener('message', ({ data }: MessageEvent<TrialAnswer>) =>
      setState((before) => {
        if (!before) return before
        const tried = before.tried + data.tried
        const found = [...before.found, ...data.found]
        return { ...before, tried, found, isRunning: tried < before.total }
      }),
    )
    const question: TrialQuestion = { kind: 'begin', share, zones: packedZones }
    own.postMessage(question)
    feed(
      own,
      () => worker.current === own,
      (total) => setState((before) => before && { ...before, total }),
    ).catch((fault: unknown) => {
      stop()
      setProblem(fault instanceof Error ? fault.message : String(fault))
    })
  }
  return { state, problem, begin, stop }
}

function Found({ tried, total, found }: Progressing) {
  const rest = found.length - mostLines
  return (
    <>
      <Progress aria-label="Tried" value={total === 0 ? 0 : (100 * tried) / total} transitionDuration={0} />
      <p role="status">
        {tried.toLocaleString('en')} of {total.toLocaleString('en')} tried,{' '}
        {found.length === 0 ? 'nothing amiss' : `${found.length.toLocaleString('en')} to look at`}.
      </p>
      <ul className={styles.problems}>
        {found.slice(0, mostLines).map((trial) => (
          <li key={trial.clientId}>
            <Link to={`/client/${trial.clientId}`}>{trial.clientName}</Link> · {words(trial)}
          </li>
        ))}
      </ul>
      {rest > 0 && <p>and {rest.toLocaleString('en')} more.</p>}
    </>
  )
}

/** The letter tried on every client with their next booking, in a worker of its own. */
export function TryAll({ content, passages, facts }: TryAllProps) {
  const settings = useAsk('settings')
  const { state, problem, begin, stop } = useTrial()
  const start = () => {
    if (!facts || !settings.data) return
    const { services, people } = settings.data
    begin({
      content,
      passages,
      pattern: { ...facts, zone: undefined, readerZone: undefined },
      services,
      people,
    })
  }
  return (
    <div className={styles.preview}>
      {state?.isRunning ? (
        <Button variant="default" onClick={stop}>
          Stop
        </Button>
      ) : (
        <Button disabled={!facts || !settings.data} onClick={start}>
          Check for everyone
        </Button>
      )}
      {problem !== null && <p role="alert">{problem}</p>}
      {state && <Found {...state} />}
    </div>
  )
}
