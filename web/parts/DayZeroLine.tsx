import { useElementSize } from '@mantine/hooks'
import type { Consequence } from '#core/api/announcements.ts'
import type { SendLine } from '#core/api/views.ts'
import { leftOutStates } from '#core/model/sendState.ts'
import { dateAndTime, shortDate } from '#core/time/format.ts'
import { dayAt, type Zone } from '#core/time/zones.ts'
import { useBusiness } from '../app/business.ts'
import styles from './DayZeroLine.module.css'
import { dayZeroScale, pinRows, type DayZeroScale } from './dayZeroScale.ts'
import { markOf } from './StateMark.tsx'

interface DayZeroLineProps {
  /** Null: no day is known yet, and the line begins where it was made. */
  readonly day0At: number | null
  readonly madeAt: number
  /** What stands where it was made, such as `booked`. */
  readonly madeWord: string
  /** Day 0 is a date without a time of day. */
  readonly isWholeDay?: boolean
  readonly sends: readonly SendLine[]
  readonly zone: Zone
  /** What an act that is being considered would do: old places stand as ghosts, new ones as they will be. */
  readonly considered?: { readonly lines: readonly Consequence[]; readonly day0At: number | null } | null
}

const pinWidth = 168
const pinHeight = 46

interface Pin {
  readonly key: string
  readonly at: number
  readonly title: string
  readonly glyph: string
  readonly isGhost: boolean
}

function pinOf(send: SendLine): Pin {
  const isGhost = leftOutStates.includes(send.state)
  return { key: send.id, at: send.shownAt, title: send.letterName, glyph: markOf[send.state].glyph, isGhost }
}

/** A send that an act would move or drop: it stands there as the old place. */
const isTouched = (send: SendLine, lines: readonly Consequence[]) =>
  lines.some(
    ({ kind, letterName, beforeAt }) =>
      kind !== 'added' && kind !== 'again' && letterName === send.letterName && beforeAt === send.shownAt,
  )

/** The pins as they would be, with ghosts where they are now. */
function consideredPins(sends: readonly SendLine[], lines: readonly Consequence[]): readonly Pin[] {
  const ghosts = sends
    .filter((send) => isTouched(send, lines))
    .map((send) => ({ ...pinOf(send), isGhost: true }))
  const stay = sends.filter((send) => !isTouched(send, lines)).map(pinOf)
  const coming = lines.flatMap(({ kind, name, letterName, afterAt, waits }): Pin[] =>
    afterAt === null
      ? []
      : [{ key: `${kind}${name}`, at: afterAt, title: letterName, glyph: waits ? '◐' : '○', isGhost: false }],
  )
  return [...stay.filter(({ isGhost }) => !isGhost), ...ghosts, ...coming]
}

/** What stands on the line: all that has a time, as it is or as an act would make it. */
function pinsOf(sends: readonly SendLine[], lines: readonly Consequence[] | null): readonly Pin[] {
  const timed = sends.filter(({ hasTime }) => hasTime)
  return lines ? consideredPins(timed, lines) : timed.map(pinOf)
}

interface PinCardProps {
  readonly pin: Pin
  readonly stemAt: number
  readonly centre: number
  readonly top: number
  /** Where the line runs. */
  readonly height: number
  readonly day0At: number
  readonly zone: Zone
}

function PinCard({ pin, stemAt, centre, top, height, day0At, zone }: PinCardProps) {
  const { year } = useBusiness()
  const foot = top + pinHeight
  return (
    <div data-side={pin.at <= day0At ? 'before' : 'after'} data-ghost={pin.isGhost} className={styles.pin}>
      <span className={styles.stem} style={{ left: stemAt, top: foot, height: height - foot }} />
      <div className={styles.card} style={{ left: centre - pinWidth / 2, top, width: pinWidth }}>
        <b>{pin.title}</b>
        <span>
          {pin.glyph} {dateAndTime(zone, pin.at, year)}
        </span>
      </div>
    </div>
  )
}

interface MarksProps {
  readonly props: DayZeroLineProps
  readonly scale: DayZeroScale
  /** Where a moment stands, in pixels. */
  readonly x: (at: number) => number
  /** Where the line runs. */
  readonly height: number
}

/** What the line itself is marked with: distances, the present, where it was made, day 0. */
function Marks({ props, scale, x, height }: MarksProps) {
  const { madeAt, madeWord, zone, considered, isWholeDay = false } = props
  const { now, year } = useBusiness()
  const presentDay0At = props.day0At ?? madeAt
  const day0At = considered?.day0At ?? presentDay0At
  const isMoving = day0At !== presentDay0At
  const nowPlace = scale.place(now)
  return (
    <>
      {scale.ticks.map(({ at, label }) => (
        <span key={`${at}`} className={styles.tick} style={{ left: x(at), top: height + 8 }}>
          {label}
        </span>
      ))}
      {nowPlace > 0 && nowPlace < 1 && (
        <span className={styles.now} style={{ left: x(now), top: height - 13 }}>
          now
        </span>
      )}
      <span className={styles.made} style={{ left: x(madeAt), top: height }} />
      <span className={styles.madeWords} style={{ left: Math.max(x(madeAt), 28), top: height + 8 }}>
        {madeWord}
      </span>
      {isMoving && (
        <span className={styles.wasDay0} style={{ left: x(presentDay0At), height }}>
          <small>was day 0</small>
        </span>
      )}
      {props.day0At !== null && (
        <div className={styles.day0} style={{ left: x(day0At), height }}>
          <span>
            Day 0 · {isWholeDay ? shortDate(dayAt(zone, day0At), year) : dateAndTime(zone, day0At, year)}
          </span>
        </div>
      )}
    </>
  )
}

/**
 * The event in the middle, what leads up to it on the left, what follows on the right. The same facts stand as a
 * list below it, which small screens and screen readers use.
 */
export function DayZeroLine(props: DayZeroLineProps) {
  const { madeAt, sends, zone, considered, isWholeDay = false } = props
  const { ref, width } = useElementSize()
  const presentDay0At = props.day0At ?? madeAt
  const day0At = considered?.day0At ?? presentDay0At
  const pins = pinsOf(sends, considered?.lines ?? null)
  const moments = [madeAt, presentDay0At, ...pins.map(({ at }) => at)]
  const scale = dayZeroScale(day0At, moments, isWholeDay)
  const x = (at: number) => scale.place(at) * width
  const clamp = (centre: number) => Math.min(Math.max(centre, pinWidth / 2 + 8), width - pinWidth / 2 - 8)
  const rows = pinRows(
    pins.map(({ at }) => clamp(x(at))),
    pinWidth + 8,
  )
  const height = (Math.max(0, ...rows) + 1) * (pinHeight + 8) + 42
  const topOf = (index: number) => height - 20 - pinHeight - (rows[index] ?? 0) * (pinHeight + 8)
  return (
    <div className={styles.line} ref={ref} aria-hidden style={{ height: height + 42 }}>
      {width > 0 && (
        <>
          <div className={styles.axis} style={{ top: height, '--day0': `${100 * scale.place(day0At)}%` }} />
          <Marks {...{ props, scale, x, height }} />
          {pins.map((pin, index) => (
            <PinCard
              key={pin.key}
              pin={pin}
              stemAt={x(pin.at)}
              centre={clamp(x(pin.at))}
              top={topOf(index)}
              height={height}
              day0At={day0At}
              zone={zone}
            />
          ))}
        </>
      )}
    </div>
  )
}
