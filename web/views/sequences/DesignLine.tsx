import { useElementSize } from '@mantine/hooks'
import { useDrag } from '@use-gesture/react'
import { useState, type KeyboardEvent } from 'react'
import { startTraits } from '#core/model/startEvent.ts'
import type { SubjectKind } from '#core/model/subject.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { isBranch, type Step } from '#core/model/step.ts'
import type { Timing } from '#core/model/timing.ts'
import { anchorWords } from '#core/sequences/anchorWords.ts'
import {
  atAnotherTime,
  canMove,
  eventAnchor,
  nextTiming,
  offsetOf,
  pinsOf,
  timingAt,
  type EventShape,
  type Pin,
} from '#core/sequences/dayZero.ts'
import type { StepNames } from '#core/sequences/sentence.ts'
import { whenWords } from '#core/sequences/stepWords.ts'
import { branchesOf, plainSteps } from '#core/sequences/steps.ts'
import { pinRows } from '../../parts/dayZeroScale.ts'
import line from '../../parts/DayZeroLine.module.css'
import styles from './DesignLine.module.css'
import { lineScale, type LineScale } from './lineScale.ts'
import { shortWhen } from '#core/sequences/shortWhen.ts'

const cardWidth = 150
const cardHeight = 46
const rowHeight = cardHeight + 8
const padding = 34

interface Placed {
  readonly pin: Pin
  readonly step: Step
  readonly x: number
  readonly centre: number
  readonly row: number
}

interface LaneLayout {
  readonly key: string
  readonly placed: readonly Placed[]
  /** Where its axis runs, from the top. */
  readonly axis: number
  readonly words: string | null
}

/** The lanes from the top: the line itself, then those of other dates, each with room for its pins. */
function layout(pins: readonly Pin[], steps: readonly Step[], scale: LineScale, width: number): LaneLayout[] {
  const all = [...plainSteps(steps), ...branchesOf(steps)]
  const others = [...new Set(pins.map(({ lane }) => lane))].filter(
    (lane) => lane !== 'start' && lane !== 'event',
  )
  const keys = ['main', ...others]
  let top = padding
  return keys.map((key) => {
    const own = pins.filter(({ lane }) =>
      key === 'main' ? lane === 'start' || lane === 'event' : lane === key,
    )
    const centres = own.map(({ lane, offsetMs }) => {
      const x = scale.place(lane, offsetMs) * width
      return Math.min(Math.max(x, cardWidth / 2 + 6), width - cardWidth / 2 - 6)
    })
    const rows = pinRows(centres, cardWidth + 8)
    const height = (Math.max(0, ...rows) + 1) * rowHeight + 12
    const axis = top + height
    top = axis + (key === 'main' ? 40 : 26)
    const placed = own.flatMap((pin, index): Placed[] => {
      const step = all.find(({ id }) => id === pin.stepId)
      if (!step) return []
      const x = scale.place(pin.lane, pin.offsetMs) * width
      return [{ pin, step, x, centre: centres[index] ?? x, row: rows[index] ?? 0 }]
    })
    return { key, placed, axis, words: key === 'main' ? null : key }
  })
}

export interface LineEdits {
  /** A pin moved; `isDone` when it was let go. */
  readonly onRetime: (step: Step, timing: Timing, isDone: boolean) => void
  readonly onOpen: (stepId: string) => void
}

interface PinCardProps extends LineEdits {
  readonly placed: Placed
  readonly axis: number
  readonly width: number
  readonly scale: LineScale
  readonly shape: EventShape
  readonly names: StepNames
  readonly isOpen: boolean
}

function glyphs(step: Step): string {
  if (isBranch(step)) return ''
  return [step.needsApproval ? '◐' : '', step.repeat ? '↻' : '', step.isOff ? '–' : '']
    .filter(Boolean)
    .join(' ')
}

const armWords = { yes: 'if so', no: 'if not' } as const

/** How a pin is moved: dragged, or with the arrow keys; pressed it opens. */
function usePinMoves({ placed, width, scale, shape, onRetime, onOpen }: PinCardProps) {
  const { pin, step, x } = placed
  const { timing } = step
  const movable = canMove(step)
  const [grabbedAt, setGrabbedAt] = useState<number | null>(null)
  const bind = useDrag(
    ({ first, last, movement: [by], tap }) => {
      if (tap) {
        onOpen(step.id)
        return
      }
      if (!movable) return
      const from = first ? x : (grabbedAt ?? x)
      if (first) setGrabbedAt(x)
      const countedFrom = pin.offsetMs - offsetOf(timing, shape)
      const offset = scale.offsetAt(pin.lane, (from + by) / width) - countedFrom
      onRetime(step, timingAt(timing, offset, shape), last)
      if (last) setGrabbedAt(null)
    },
    { filterTaps: true, threshold: 4, pointer: { keys: false } },
  )
  const onKeyDown = (event: KeyboardEvent) => {
    const sideways = { ArrowLeft: 'earlier', ArrowRight: 'later' } as const
    const upwards = { ArrowUp: 15, ArrowDown: -15 } as const
    const { key } = event
    if (key === 'Enter' || key === ' ') onOpen(step.id)
    else if (movable && (key === 'ArrowLeft' || key === 'ArrowRight'))
      onRetime(step, nextTiming(timing, sideways[key], shape), true)
    else if (movable && (key === 'ArrowUp' || key === 'ArrowDown'))
      onRetime(step, atAnotherTime(timing, upwards[key]), true)
    else return
    event.preventDefault()
  }
  return { bind, onKeyDown, movable }
}

function PinCard(props: PinCardProps) {
  const { placed, axis, names, isOpen } = props
  const { pin, step, x, centre, row } = placed
  const { timing } = step
  const { bind, onKeyDown, movable } = usePinMoves(props)
  const top = axis - 14 - cardHeight - row * rowHeight
  const title = isBranch(step) ? 'Fork' : names.action(step)
  const words = shortWhen(timing, isBranch(step) ? null : step.onlyDays)
  const side = pin.lane === 'start' ? 'start' : pin.offsetMs < 0 ? 'before' : 'after'
  return (
    <div data-side={side} data-ghost={!isBranch(step) && step.isOff} className={line.pin}>
      <span
        className={styles.stem}
        style={{ left: x, top: top + cardHeight, height: axis - top - cardHeight }}
        data-open={isOpen}
      />
      <div
        {...bind()}
        role="slider"
        tabIndex={0}
        aria-label={title}
        aria-valuenow={Math.round(pin.offsetMs / 60_000)}
        aria-valuetext={whenWords(timing)}
        aria-roledescription="pin"
        className={`${line.card ?? ''} ${styles.card ?? ''}`}
        data-open={isOpen}
        data-fork={isBranch(step)}
        data-movable={movable}
        style={{ left: centre - cardWidth / 2, top, width: cardWidth }}
        onKeyDown={onKeyDown}
      >
        <b>{title}</b>
        <span>
          {pin.arm && <i>{armWords[pin.arm.side]} </i>}
          {words} {glyphs(step)}
        </span>
      </div>
    </div>
  )
}

interface DesignLineProps extends LineEdits {
  readonly design: SequenceDesign
  readonly shape: EventShape
  readonly names: StepNames
  readonly openStepId: string | null
}

/** What a chained pin hangs from, and the dots where a step comes again. */
function Links({ lane, scale, width }: { lane: LaneLayout; scale: LineScale; width: number }) {
  const { placed, axis } = lane
  return placed.map(({ pin, x }) => {
    const from = placed.find((one) => one.pin.stepId === pin.hangsFrom)
    return (
      <span key={pin.stepId}>
        {from && (
          <span
            className={styles.chain}
            style={{ left: Math.min(from.x, x), width: Math.abs(x - from.x), top: axis - 9 }}
          />
        )}
        {pin.repeatsMs.map((offsetMs) => (
          <span
            key={offsetMs}
            className={styles.again}
            style={{ left: scale.place(pin.lane, offsetMs) * width, top: axis - 3 }}
          />
        ))}
      </span>
    )
  })
}

function Axis({ lane, scale, width }: { lane: LaneLayout; scale: LineScale; width: number }) {
  const { zeroPlace } = scale
  const zero = zeroPlace ?? scale.startPlace
  const isMain = lane.key === 'main'
  return (
    <>
      <div
        className={isMain ? line.axis : styles.axis}
        style={{ top: lane.axis, '--day0': `${100 * (isMain && zeroPlace === null ? 0 : zero)}%` }}
      />
      {!isMain && (
        <span className={styles.laneWords} style={{ top: lane.axis + 6, left: zero * width }}>
          {lane.words}
        </span>
      )}
    </>
  )
}

interface LandmarksProps {
  readonly lane: LaneLayout
  readonly scale: LineScale
  readonly width: number
  readonly startWords: string
  readonly eventWords: string
}

/** What is always there: the beginning, day 0, and the marks of the scale. */
function Landmarks({ lane, scale, width, startWords, eventWords }: LandmarksProps) {
  const { axis } = lane
  const { zeroPlace } = scale
  return (
    <>
      {scale.ticks.map(({ place, label }) => (
        <span key={place} className={line.tick} style={{ left: place * width, top: axis + 8 }}>
          {label}
        </span>
      ))}
      <span className={line.made} style={{ left: scale.startPlace * width, top: axis }} />
      <span className={styles.begins} style={{ left: 6, top: axis + 10 }}>
        {startWords}
      </span>
      {zeroPlace !== null && (
        <div className={line.day0} style={{ left: zeroPlace * width, height: axis }}>
          <span>Day 0 · {eventWords}</span>
        </div>
      )}
    </>
  )
}

const beginWords: Readonly<Record<SubjectKind, string>> = {
  booking: 'booked',
  enquiry: 'asked',
  invoice: 'issued',
  client: 'begins',
}

/**
 * A sequence around day 0: pins that are dragged, moved by the arrow keys, or opened to be typed. What it shows stands
 * as sentences below it, which screen readers and small screens use.
 */
export function DesignLine({ design, shape, names, openStepId, onRetime, onOpen }: DesignLineProps) {
  const { ref, width } = useElementSize()
  const { start, steps } = design
  const [frozen, setFrozen] = useState<LineScale | null>(null)
  const event = eventAnchor(start)
  const pins = pinsOf(steps, start, shape)
  const scale = frozen ?? lineScale(pins, event !== null)
  const lanes = layout(pins, steps, scale, width)
  const [main] = lanes
  const height = (lanes.at(-1)?.axis ?? 80) + 46
  // While a pin is dragged the scale must not move under the hand.
  const retime: LineEdits['onRetime'] = (step, timing, isDone) => {
    setFrozen(isDone ? null : scale)
    onRetime(step, timing, isDone)
  }
  return (
    <section className={line.line} ref={ref} aria-label="The sequence as a line" style={{ height }}>
      {width > 0 && main && (
        <>
          {lanes.map((lane) => (
            <Axis key={lane.key} lane={lane} scale={scale} width={width} />
          ))}
          <Landmarks
            lane={main}
            scale={scale}
            width={width}
            startWords={beginWords[startTraits[start.on].subject]}
            eventWords={event === null ? '' : anchorWords({ of: event })}
          />
          {lanes.map((lane) => (
            <Links key={lane.key} lane={lane} scale={scale} width={width} />
          ))}
          {lanes.flatMap((lane) =>
            lane.placed.map((placed) => (
              <PinCard
                key={placed.step.id}
                placed={placed}
                axis={lane.axis}
                width={width}
                scale={scale}
                shape={shape}
                names={names}
                isOpen={openStepId === placed.step.id}
                onRetime={retime}
                onOpen={onOpen}
              />
            )),
          )}
        </>
      )}
    </section>
  )
}
