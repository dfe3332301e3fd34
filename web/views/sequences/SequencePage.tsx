import { Button, Group, TextInput } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { useMemo, useState } from 'react'
import { useParams } from 'react-router'
import type { SequenceView } from '#core/api/sequenceEndpoints.ts'
import type { SettingsView } from '#core/api/views.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { isBranch, type Step } from '#core/model/step.ts'
import type { Timing } from '#core/model/timing.ts'
import { crossesDayZero, usualShape, type EventShape } from '#core/sequences/dayZero.ts'
import type { StepNames } from '#core/sequences/sentence.ts'
import { flipped, withStep, withTiming } from '#core/sequences/editing.ts'
import { plainSteps } from '#core/sequences/steps.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { realZones } from '#core/time/realZones.ts'
import { wallAt } from '#core/time/zones.ts'
import { notify } from '../../app/notices.ts'
import { useAsk } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { DesignLine } from './DesignLine.tsx'
import { Effect } from './Effect.tsx'
import { FlipQuestion } from './FlipQuestion.tsx'
import { namesFrom } from './names.ts'
import { Preview } from './Preview.tsx'
import type { OpenPart } from './openPart.ts'
import { Sentences } from './Sentences.tsx'
import { RolloutProgress } from './RolloutProgress.tsx'
import { SequenceActs, SwitchQuestion } from './SequenceActs.tsx'
import styles from './sequences.module.css'
import { StartRules } from './StartRules.tsx'
import { StateWord } from './StateWord.tsx'
import { Trust } from './Trust.tsx'
import { inEffect, useDesign, type Designing } from './useDesign.ts'
import { usePreview, type Previewing } from './usePreview.ts'

/** How the event one looks with lies in its day; the usual one while there is nobody to look with. */
function shapeOf({ view }: Previewing): EventShape {
  if (!view?.event) return usualShape
  const { startAt, endAt } = view.event
  const startMinute = Math.floor(wallAt(realZones.zone(view.zoneName), startAt).msOfDay / minuteMs)
  return { startMinute, durationMs: endAt - startAt }
}

/** Moving a pin: over day 0 somebody is asked first. */
function useRetiming({ design, change }: Designing) {
  const [asked, setAsked] = useState<{ readonly step: Step; readonly timing: Timing } | null>(null)
  const put = (next: Step, name?: string) =>
    change({ ...design, steps: [...withStep(design.steps, next.id, () => next)] }, name)
  const retime = (step: Step, timing: Timing, isDone: boolean) => {
    if (JSON.stringify(timing) === JSON.stringify(step.timing)) {
      if (!isDone) setAsked(null)
      return
    }
    if (!isBranch(step) && crossesDayZero(step.timing, timing)) {
      setAsked({ step, timing })
      return
    }
    setAsked(null)
    if (isBranch(step)) put({ ...step, timing }, `${step.id} moved`)
    else put(withTiming(step, timing), `${step.id} moved`)
  }
  const flip = asked && !isBranch(asked.step) ? flipped(asked.step, asked.timing) : null
  return {
    retime,
    flip,
    accept: () => {
      if (flip) put(flip.step)
      setAsked(null)
    },
    leave: () => setAsked(null),
  }
}

interface HeadProps {
  readonly view: SequenceView
  readonly designing: Designing
  readonly onEffect: () => void
  readonly onSwitch: () => void
}

function Head({ view, designing, onEffect, onSwitch }: HeadProps) {
  const { sequence, running, version } = view
  const { design, change, undo, redo, canUndo, canRedo, isDirty } = designing
  const isSame = JSON.stringify(design) === JSON.stringify(inEffect(view))
  const isDraft = sequence.state === 'draft'
  return (
    <div className={table.head}>
      <h1 className={styles.title}>
        <TextInput
          aria-label="Name of the sequence"
          size="md"
          value={design.name}
          error={design.name.trim() === '' ? 'A sequence needs a name.' : undefined}
          onChange={(event) => change({ ...design, name: event.currentTarget.value }, 'name')}
        />
      </h1>
      <p className={styles.standing}>
        <StateWord state={sequence.state} />
        {!isDraft && ` · version ${version.version} · ${running} running`}
        {!isSame && !isDraft && ' · changes not in effect yet'}
        <span aria-live="polite"> · {isDirty ? 'saving…' : 'saved'}</span>
      </p>
      <Group gap="xs">
        <Button variant="default" onClick={undo} disabled={!canUndo}>
          Undo
        </Button>
        <Button variant="default" onClick={redo} disabled={!canRedo}>
          Redo
        </Button>
        <SequenceActs view={view} designing={designing} onSwitch={onSwitch} />
        {(isDraft || !isSame) && (
          <Button onClick={onEffect} disabled={design.steps.length === 0}>
            {isDraft ? 'See what going live does' : 'See what the changes do'}
          </Button>
        )}
      </Group>
    </div>
  )
}

interface DesignerProps {
  readonly view: SequenceView
  readonly settings: SettingsView
}

function useOpenPart() {
  const [open, setOpen] = useState<OpenPart | null>(null)
  const openFromLine = (stepId: string) => {
    setOpen({ stepId, key: 'when' })
    requestAnimationFrame(() => document.getElementById('sentences')?.scrollIntoView({ block: 'nearest' }))
  }
  return { open, setOpen, openFromLine }
}

const approvalsOf = ({ steps }: SequenceDesign) =>
  new Set(plainSteps(steps).flatMap(({ id, needsApproval }) => (needsApproval ? [id] : [])))

/** Why a design could not be kept, and what can be done about it. */
function Keeping({ designing }: { designing: Designing }) {
  return (
    <>
      <Problem of={designing.problem} />
      {designing.isConflict && (
        <Button variant="default" onClick={designing.overrule}>
          Save this one instead of the other
        </Button>
      )}
    </>
  )
}

interface BelowProps extends DesignerProps {
  readonly designing: Designing
  readonly previewing: Previewing
  readonly names: StepNames
  readonly open: OpenPart | null
  readonly onOpen: (open: OpenPart | null) => void
}

/** Below the line: the same in sentences, and for somebody real. */
function Below({ view, settings, designing, previewing, names, open, onOpen }: BelowProps) {
  const { design, change } = designing
  return (
    <div className={styles.below}>
      <section className={table.sheet} aria-label="In sentences" id="sentences">
        <h2 className={table.group}>In sentences</h2>
        <Sentences
          design={design}
          change={change}
          settings={settings}
          names={names}
          counts={view.counts}
          variations={view.variations}
          surprises={previewing.view?.surprises ?? []}
          open={open}
          onOpen={onOpen}
        />
      </section>
      <Preview sequenceId={view.sequence.id} previewing={previewing} approvals={approvalsOf(design)} />
    </div>
  )
}

function Designer({ view, fetchedAt, settings }: DesignerProps & { readonly fetchedAt: number }) {
  const designing = useDesign(view, fetchedAt)
  const { design, change, undo, redo } = designing
  const previewing = usePreview(view.sequence.id, design)
  const { open, setOpen, openFromLine } = useOpenPart()
  const { retime, flip, accept, leave } = useRetiming(designing)
  const [considering, setConsidering] = useState<'effect' | 'switch' | null>(null)
  const close = () => setConsidering(null)
  const names = useMemo(() => namesFrom(settings), [settings])
  useHotkeys([
    ['mod+Z', undo],
    ['mod+shift+Z', redo],
  ])
  const shape = shapeOf(previewing)
  return (
    <div className={table.page}>
      <Head
        view={view}
        designing={designing}
        onEffect={() => setConsidering('effect')}
        onSwitch={() => setConsidering('switch')}
      />
      <RolloutProgress view={view} />
      {considering === 'switch' && <SwitchQuestion view={view} onClose={close} />}
      <Keeping designing={designing} />
      <StartRules design={design} change={change} settings={settings} names={names} />
      <DesignLine
        design={design}
        shape={shape}
        names={names}
        openStepId={open?.stepId ?? null}
        onRetime={retime}
        onOpen={openFromLine}
      />
      {flip && <FlipQuestion flip={flip} names={names} onAccept={accept} onLeave={leave} />}
      {considering === 'effect' && (
        <Effect
          view={view}
          design={design}
          onClose={close}
          onDone={(sends) => {
            close()
            const count = sends === 1 ? '1 message was' : `${sends} messages were`
            void notify(`It is in effect. ${count} planned, moved or dropped.`)
          }}
        />
      )}
      <Below
        view={view}
        settings={settings}
        designing={designing}
        previewing={previewing}
        names={names}
        open={open}
        onOpen={setOpen}
      />
      <Trust sequenceId={view.sequence.id} />
    </div>
  )
}

/** A sequence being designed: the line around day 0, the same in sentences, and what it makes of somebody real. */
export default function SequencePage() {
  const { id = '' } = useParams()
  const sequence = useAsk('sequence', { parameters: { id } })
  const settings = useAsk('settings')
  if (sequence.error) return <ErrorState problem={sequence.error} onAgain={() => void sequence.refetch()} />
  if (settings.error) return <ErrorState problem={settings.error} onAgain={() => void settings.refetch()} />
  if (!sequence.data || !settings.data) return <Waiting />
  const { version, state } = { version: sequence.data.version.version, state: sequence.data.sequence.state }
  // What is in effect has changed under the page: it begins anew with that.
  const key = `${id} ${version} ${state === 'draft' ? 'draft' : 'live'}`
  return (
    <Designer key={key} view={sequence.data} fetchedAt={sequence.dataUpdatedAt} settings={settings.data} />
  )
}
