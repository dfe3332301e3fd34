import { Button, Checkbox, Select, TextInput } from '@mantine/core'
import { useDebouncedCallback } from '@mantine/hooks'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import type { PipelineView } from '#core/api/enquiryEndpoints.ts'
import type { OfferedMove } from '#core/api/moveViews.ts'
import type { SettingsView } from '#core/api/views.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { PressMove, useMovesOffered } from '../../parts/OnePress.tsx'
import { useChosen, type Chosen } from '../../parts/useChosen.ts'
import { Board } from './Board.tsx'
import { Ended } from './Ended.tsx'
import { MoveTo, Said, type Moved, type MoveSaid } from './MoveTo.tsx'
import { NewEnquiry } from './NewEnquiry.tsx'
import { OpenEnquiry } from './OpenEnquiry.tsx'
import styles from './pipeline.module.css'
import { bandsOf, rowsOf } from './rows.ts'
import { useBoard, type Board as BoardState } from './useBoard.ts'

interface FiltersProps {
  readonly board: BoardState
  readonly settings: SettingsView
}

/** How soon after the last key it is looked for, in milliseconds. */
const afterMs = 120

/** What is looked for: at once in the field, and in the address once one stops typing. */
function Words({ board: { filters, set } }: { board: BoardState }) {
  const [typed, setTyped] = useState(filters.words)
  const [written, setWritten] = useState(filters.words)
  const [seen, setSeen] = useState(filters.words)
  const write = useDebouncedCallback((words: string) => {
    setWritten(words)
    set({ words: words || null })
  }, afterMs)
  // Another address than what was written here, as by “Show all” or the way back, is what counts.
  if (filters.words !== seen) {
    setSeen(filters.words)
    if (filters.words !== written) setTyped(filters.words)
  }
  return (
    <TextInput
      aria-label="Find by client or what for"
      placeholder="client or what for"
      value={typed}
      onChange={(event) => {
        setTyped(event.currentTarget.value)
        write(event.currentTarget.value)
      }}
    />
  )
}

/** What of it is shown; `mine` is what the one who looks is in charge of. */
function Filters({ board, settings }: FiltersProps) {
  const { session } = useBusiness()
  const { filters, set } = board
  const mineId = session.person?.id ?? ''
  const people = settings.people.filter(({ isActive }) => isActive)
  return (
    <>
      <Words board={board} />
      <Select
        aria-label="In charge"
        placeholder="everybody’s"
        clearable
        clearButtonProps={{ 'aria-label': 'Everybody’s' }}
        data={[
          ...people.map(({ id, name }) => ({ value: id, label: id === mineId ? `mine (${name})` : name })),
          { value: 'nobody', label: 'nobody’s' },
        ]}
        value={filters.personId === '' ? 'nobody' : filters.personId}
        onChange={(person) => set({ person: person === 'nobody' ? '' : person })}
      />
      <Select
        aria-label="Service"
        placeholder="all services"
        clearable
        clearButtonProps={{ 'aria-label': 'All services' }}
        data={settings.services.map(({ id, name }) => ({ value: id, label: name }))}
        value={filters.serviceId}
        onChange={(service) => set({ service })}
      />
      <Checkbox
        label="past its deadline"
        checked={filters.isLate}
        onChange={(event) => set({ late: event.currentTarget.checked ? '1' : null })}
      />
    </>
  )
}

interface BesideProps {
  readonly view: PipelineView
  readonly board: BoardState
  readonly moving: Moving | null
  readonly setMoving: (moving: Moving | null) => void
  readonly said: MoveSaid | null
  readonly setSaid: (said: MoveSaid | null) => void
  readonly chosen: Chosen
}

/** Enquiries on their way into a stage; null: it is still to be chosen. */
interface Moving {
  readonly enquiries: readonly Moved[]
  readonly to: string | null
  /** A move that is pressed on them instead; null: they only go into a stage. */
  readonly press?: OfferedMove
}

/** What stands beside the board: a move that is considered, a new enquiry, or one that is looked at. */
function Beside({ view: { pipeline, lines }, board, moving, setMoving, said, setSaid, chosen }: BesideProps) {
  const close = () => board.set({ open: null, client: null })
  const over = (words: MoveSaid) => {
    setSaid(words)
    chosen.clear()
    setMoving(null)
  }
  if (moving?.press) {
    return (
      <PressMove
        move={moving.press}
        on={moving.enquiries}
        onClose={() => setMoving(null)}
        onDone={(words) => over({ words, sendId: null, letterName: '' })}
      />
    )
  }
  if (moving) {
    return (
      <MoveTo
        key={`${moving.to ?? ''}${moving.enquiries.map(({ id }) => id).join()}`}
        pipeline={pipeline}
        {...moving}
        onClose={() => setMoving(null)}
        onDone={over}
      />
    )
  }
  return (
    <>
      {said && <Said said={said} onClose={() => setSaid(null)} />}
      {board.beside === 'new' && (
        <NewEnquiry
          pipelineId={pipeline.id}
          clientId={board.clientId}
          onClose={close}
          onMade={(id) => board.set({ open: id, client: null })}
        />
      )}
      {board.beside !== null && board.beside !== 'new' && (
        <OpenEnquiry
          id={board.beside}
          onClose={close}
          onMove={(enquiry, to) => setMoving({ enquiries: [enquiry], to })}
          onPress={(press) => {
            const enquiry = lines.find(({ id }) => id === board.beside)
            if (enquiry) setMoving({ enquiries: [enquiry], to: null, press })
          }}
        />
      )}
    </>
  )
}

interface ChosenBarProps {
  readonly chosen: Chosen
  readonly onMove: () => void
  readonly onPress: (move: OfferedMove) => void
}

/** What can be done with the enquiries that are chosen, as far as it makes sense for one of them. */
function ChosenBar({ chosen, onMove, onPress }: ChosenBarProps) {
  const offered = useMovesOffered([...chosen.ids])
  if (chosen.ids.size === 0) return null
  return (
    <div className={table.acts} style={{ padding: '0.5rem 1rem' }}>
      <b role="status">{chosen.ids.size} chosen</b>
      <Button size="compact-md" variant="default" onClick={onMove}>
        Into another stage…
      </Button>
      {offered.map((move) => (
        <Button key={move.id} size="compact-md" variant="light" onClick={() => onPress(move)}>
          {move.name}…
        </Button>
      ))}
      <Button size="compact-md" variant="subtle" onClick={chosen.clear}>
        Choose none
      </Button>
    </div>
  )
}

function NoneYet({ board }: { board: BoardState }) {
  return board.isFiltered ? (
    <EmptyState title="No enquiry fits.">
      <p>
        <Button size="compact-md" variant="default" onClick={board.clear}>
          Show all
        </Button>
      </p>
    </EmptyState>
  ) : (
    <EmptyState title="No open enquiries.">
      <p>
        Somebody who asks and has not booked yet stands here until they do.{' '}
        <Link to="?open=new">Write an enquiry down</Link>.
      </p>
    </EmptyState>
  )
}

function Page({ view }: { view: PipelineView }) {
  const board = useBoard()
  const chosen = useChosen()
  const [moving, setMoving] = useState<Moving | null>(null)
  const [said, setSaid] = useState<MoveSaid | null>(null)
  const isBeside = moving !== null || said !== null || board.beside !== null
  const { pipeline, sums, lines } = view
  const bands = bandsOf(view, board.filters, board.today)
  const found = bands.flatMap((band) => band.lines)
  const put = (id: string, to: string | null) => {
    const enquiry = lines.find((one) => one.id === id)
    if (enquiry) setMoving({ enquiries: [enquiry], to })
  }
  return (
    <div className={isBeside ? styles.both : ''}>
      <div>
        <div className={table.sheet}>
          <ChosenBar
            chosen={chosen}
            onMove={() => setMoving({ enquiries: lines.filter(({ id }) => chosen.has(id)), to: null })}
            onPress={(press) => {
              const enquiries = lines.filter(({ id }) => press.ids.includes(id))
              setMoving({ enquiries, to: null, press })
            }}
          />
          {found.length === 0 && <NoneYet board={board} />}
          <Board
            rows={rowsOf(bands, board.folds)}
            folds={board.folds}
            today={board.today}
            openId={board.beside}
            chosen={chosen}
            onFold={board.fold}
            onOpen={(id) => {
              setMoving(null)
              board.set({ open: id })
            }}
            onPut={put}
            onSend={(id, place) => {
              const stage = pipeline.stages[place - 1]
              if (stage && stage.name !== lines.find((one) => one.id === id)?.stage) put(id, stage.name)
            }}
          />
        </div>
        {pipeline.stages.map((stage, index) => {
          const sum = sums[index]
          return stage.meaning === 'open' || !sum ? null : (
            <Ended key={stage.name} pipelineId={pipeline.id} stage={stage} sum={sum} />
          )
        })}
      </div>
      {isBeside && (
        <aside className={table.sheet} aria-label="Beside the board">
          <Beside {...{ view, board, moving, setMoving, said, setSaid, chosen }} />
        </aside>
      )}
    </div>
  )
}

function Head({ settings, pipelineId }: { settings: SettingsView; pipelineId: string }) {
  const board = useBoard()
  const navigate = useNavigate()
  const active = settings.pipelines.filter(({ id, isActive }) => isActive || id === pipelineId)
  return (
    <div className={table.head}>
      <h1>Pipeline</h1>
      {active.length > 1 && (
        <Select
          aria-label="Which pipeline"
          allowDeselect={false}
          data={active.map(({ id, name }) => ({ value: id, label: name }))}
          value={pipelineId}
          onChange={(id) => void navigate(`/pipeline/${id ?? ''}`)}
        />
      )}
      <Filters board={board} settings={settings} />
      <Link to={`/set-up/pipeline/${pipelineId}`}>Edit stages</Link>
      <Button onClick={() => board.set({ open: 'new' })}>New enquiry</Button>
    </div>
  )
}

/** Enquiries by stage, each on one line with what is coming for it. */
export default function Pipeline() {
  const { id: asked } = useParams()
  const settings = useAsk('settings')
  const first = settings.data?.pipelines.find(({ isActive }) => isActive)?.id ?? null
  const id = asked ?? first
  const view = useAsk('pipeline', { parameters: { id: id ?? '' } }, { enabled: id !== null })
  const problem = settings.error ?? view.error
  if (problem) return <ErrorState problem={problem} onAgain={() => void view.refetch()} />
  if (!settings.data) return <Waiting />
  return (
    <div className={table.page}>
      {id !== null && <Head settings={settings.data} pipelineId={id} />}
      {view.data ? <Page key={id} view={view.data} /> : <Waiting />}
    </div>
  )
}
