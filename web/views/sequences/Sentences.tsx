import { Button, Group } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { useState } from 'react'
import type { SequenceView } from '#core/api/sequenceEndpoints.ts'
import type { SettingsView } from '#core/api/views.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { isBranch, type Step } from '#core/model/step.ts'
import { inItsPlace } from '#core/sequences/placing.ts'
import { withStep, withStepMoved, type StepPlace } from '#core/sequences/editing.ts'
import { unsaidOf } from '#core/sequences/unsaid.ts'
import { sentenceOf, type SentenceKey, type SentencePart, type StepNames } from '#core/sequences/sentence.ts'
import type { Surprise } from '#core/sequences/warnings.ts'
import { AddStep } from './AddStep.tsx'
import { Dragging, useDragged } from './Dragging.tsx'
import type { OpenPart } from './openPart.ts'
import { PartEditor } from './PartEditor.tsx'
import styles from './sequences.module.css'

export interface SentencesProps {
  readonly design: SequenceDesign
  readonly change: (next: SequenceDesign, name?: string) => void
  readonly settings: SettingsView
  readonly names: StepNames
  readonly counts: SequenceView['counts']
  readonly variations: SequenceView['variations']
  readonly surprises: readonly Surprise[]
  readonly open: OpenPart | null
  readonly onOpen: (open: OpenPart | null) => void
}

const keyTitles: Readonly<Record<SentenceKey, string>> = {
  when: 'When',
  days: 'Days',
  what: 'What',
  to: 'To whom',
  from: 'From whom',
  repeat: 'Again',
  approval: 'Approval',
  'only if': 'Only if',
  'sending hours': 'Sending hours',
  'if late': 'If late',
  'if moved': 'If moved',
  'useful for': 'Useful until',
  lead: 'Gone before',
  'on or off': 'On or off',
}

interface StepRowProps extends SentencesProps {
  readonly step: Step
  readonly number: string
}

/** One part of a step, open to be changed in its design. */
function StepPart({ step, part, design, settings, change }: StepRowProps & { part: SentenceKey }) {
  const put = (next: Step) =>
    change({ ...design, steps: [...withStep(design.steps, step.id, () => next)] }, `${step.id} ${part}`)
  return <PartEditor part={part} step={step} start={design.start} settings={settings} onChange={put} />
}

/** What holds for a step without being said in its sentence, each to be changed where it stands. */
function Unsaid(props: StepRowProps) {
  const { step, names } = props
  const [open, setOpen] = useState<SentenceKey | null>(null)
  return (
    <dl className={styles.unsaid}>
      {unsaidOf(step, names, open).map(({ key, text }) => (
        <div key={key}>
          <dt>{keyTitles[key]}</dt>
          <dd>
            <button
              type="button"
              className={styles.part}
              aria-expanded={open === key}
              aria-label={`${keyTitles[key]}: ${text}`}
              onClick={() => setOpen(open === key ? null : key)}
            >
              {text}
            </button>
            {open === key && <StepPart {...props} part={key} />}
          </dd>
        </div>
      ))}
    </dl>
  )
}

function More(props: StepRowProps) {
  const { step, design, change, onOpen } = props
  const steps = (next: readonly Step[]) => change({ ...design, steps: [...next] })
  const move = (by: -1 | 1) => steps(withStepMoved(design.steps, step.id, by))
  return (
    <>
      <Unsaid {...props} />
      <Group gap="xs" className={styles.more}>
        <Button size="compact-sm" variant="default" onClick={() => move(-1)}>
          Move up
        </Button>
        <Button size="compact-sm" variant="default" onClick={() => move(1)}>
          Move down
        </Button>
        <Button
          size="compact-sm"
          variant="default"
          color="brick"
          onClick={() => {
            steps(withStep(design.steps, step.id, () => null))
            onOpen(null)
          }}
        >
          Remove step
        </Button>
      </Group>
    </>
  )
}

const fieldNames = {
  letterId: 'another letter',
  timing: 'another time',
  recipients: 'other recipients',
  needsApproval: 'approval',
  isOff: 'on or off',
} as const

/** Where a step differs for a service or a client. */
function Differing({ stepId, variations }: { stepId: string; variations: SequenceView['variations'] }) {
  const own = variations.filter(({ variation }) => variation.stepId === stepId)
  if (own.length === 0) return null
  const words = own.map(({ variation, whose }) => {
    const fields = Object.entries(fieldNames).filter(
      ([key]) => variation[key as keyof typeof fieldNames] !== null,
    )
    return `${whose}: ${fields.map(([, name]) => name).join(', ')}`
  })
  return <p className={styles.differs}>≠ differs for {words.join('; ')}</p>
}

function Counts({ stepId, counts }: { stepId: string; counts: SequenceView['counts'] }) {
  const found = counts[stepId]
  if (!found) return <span className={styles.counts} />
  return (
    <span className={styles.counts}>
      sent {found.sent}
      {found.ahead > 0 && ` · ${found.ahead} ahead`}
    </span>
  )
}

function Sentence(props: StepRowProps & { parts: readonly SentencePart[] }) {
  const { step, number, open, onOpen, parts } = props
  const isOpen = open?.stepId === step.id
  return (
    <p className={styles.sentence}>
      {parts.map(({ key, text }, index) =>
        key === null ? (
          <span key={index}>{text}</span>
        ) : (
          <button
            key={index}
            type="button"
            className={styles.part}
            aria-expanded={isOpen && open.key === key}
            aria-label={`${keyTitles[key]}: ${text}`}
            onClick={() => onOpen(isOpen && open.key === key ? null : { stepId: step.id, key })}
          >
            {text}
          </button>
        ),
      )}{' '}
      <button
        type="button"
        className={styles.moreButton}
        aria-expanded={isOpen && open.key === 'more'}
        aria-label={`More about step ${number}`}
        onClick={() => onOpen(isOpen && open.key === 'more' ? null : { stepId: step.id, key: 'more' })}
      >
        more…
      </button>
    </p>
  )
}

function Editor(props: StepRowProps & { open: OpenPart }) {
  const { number, open, onOpen } = props
  return (
    <div className={styles.editor} role="group" aria-label={`Step ${number}`}>
      {open.key === 'more' ? <More {...props} /> : <StepPart {...props} key={open.key} part={open.key} />}
      <Button {...looking} size="compact-sm" onClick={() => onOpen(null)}>
        Done
      </Button>
    </div>
  )
}

function StepRow(props: StepRowProps) {
  const { step, number, names, open, surprises, counts, variations } = props
  const parts = sentenceOf(step, names)
  const isOpen = open?.stepId === step.id
  const own = surprises.filter(({ stepId, code }) => stepId === step.id && staticCodes.includes(code))
  const { setNodeRef, attributes, listeners, style } = useDragged(step.id)
  return (
    <li ref={setNodeRef} className={styles.step} data-open={isOpen} style={style}>
      <button
        type="button"
        className={styles.handle}
        {...attributes}
        {...listeners}
        aria-label={`Move step ${number}`}
      >
        <span className={styles.number}>{number}</span>
      </button>
      <div>
        <Sentence {...props} parts={parts} />
        <Differing stepId={step.id} variations={variations} />
        {own.map(({ code, sentence }) => (
          <p key={code} className={styles.surprise}>
            ✕ {sentence}
          </p>
        ))}
        {isOpen && <Editor {...props} open={open} />}
        {isBranch(step) && <Arms {...props} step={step} number={number} />}
      </div>
      <Counts stepId={step.id} counts={counts} />
    </li>
  )
}

/** Warnings that are about the step itself, not about one booking. */
const staticCodes: readonly string[] = [
  'fault',
  'nobody',
  'never',
  'no letter',
  'unread letter',
  'letter problems',
  'sequence not live',
  'empty fork',
]

function Arms({ step, number, ...props }: StepRowProps) {
  if (!isBranch(step)) return null
  const side = (which: 'yes' | 'no') => {
    const place: StepPlace = { branchId: step.id, side: which }
    return (
      <div className={styles.arm}>
        <h4>{which === 'yes' ? 'If so' : 'If not'}</h4>
        <Dragging steps={step[which]} {...props}>
          {(one, index) => (
            <StepRow
              key={one.id}
              {...props}
              step={one}
              number={`${number}${which === 'yes' ? 'a' : 'b'}${index + 1}`}
            />
          )}
        </Dragging>
        <AddStep
          design={props.design}
          change={props.change}
          settings={props.settings}
          place={place}
          onOpen={props.onOpen}
        />
      </div>
    )
  }
  return (
    <div className={styles.arms}>
      {side('yes')}
      {side('no')}
    </div>
  )
}

/** A sequence in sentences whose parts are changed where they stand. */
export function Sentences(props: SentencesProps) {
  const { design, change, settings } = props
  // A step just added finds its place in time once its first part is closed.
  const [added, setAdded] = useState<string | null>(null)
  const onOpen = (next: OpenPart | null) => {
    if (added !== null && next?.stepId !== added) {
      const steps = inItsPlace(design.steps, added, design.start)
      if (steps.some(({ id }, index) => design.steps[index]?.id !== id))
        change({ ...design, steps: [...steps] })
      setAdded(null)
    }
    props.onOpen(next)
  }
  const onAdded = (next: OpenPart) => {
    setAdded(next.stepId)
    props.onOpen(next)
  }
  return (
    <>
      <Dragging steps={design.steps} design={design} change={change}>
        {(step, index) => (
          <StepRow key={step.id} {...props} onOpen={onOpen} step={step} number={String(index + 1)} />
        )}
      </Dragging>
      <AddStep design={design} change={change} settings={settings} place={null} onOpen={onAdded} />
    </>
  )
}
