import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type Announcements,
  type CollisionDetection,
  type KeyboardCoordinateGetter,
  type UniqueIdentifier,
} from '@dnd-kit/core'
import { useRef, type ReactNode } from 'react'
import type { TimetableDay } from '#core/api/bookingEndpoints.ts'
import { useBusiness } from '../../app/business.ts'
import { keyOf, placesFor, placeWords, type Place, type Placed } from './weekPlaces.ts'

const screenReaderInstructions = {
  draggable:
    'Space takes hold of the booking. Up and down lead to the departures, left and right to the days; Space puts it there, after which you see what that does. Escape leaves it where it is.',
}

const steps: Readonly<Record<string, readonly [Place['kind'], number]>> = {
  ArrowDown: ['line', 1],
  ArrowUp: ['line', -1],
  ArrowRight: ['day', 1],
  ArrowLeft: ['day', -1],
}

/** The next place of a kind from another one on, in the order of time. */
function nextPlace(places: readonly Place[], from: Place, kind: Place['kind'], step: number) {
  const here = places.findIndex((one) => keyOf(one) === keyOf(from))
  for (let index = here + step; index >= 0 && index < places.length; index += step) {
    const place = places[index]
    if (place?.kind === kind) return place
  }
  return null
}

/** What is said to who moves a booking without seeing it. */
function announcementsOf(
  bookings: ReadonlyMap<string, Placed>,
  placeOf: (id: UniqueIdentifier, key: UniqueIdentifier) => Place | undefined,
  year: number,
): Announcements {
  const said = (id: UniqueIdentifier, key: UniqueIdentifier | undefined, words: string) => {
    const place = key === undefined ? undefined : placeOf(id, key)
    return place ? `${words} ${placeWords(place, year)}.` : 'It stays where it is.'
  }
  return {
    onDragStart: ({ active }) =>
      `The booking of ${bookings.get(String(active.id))?.clientName ?? ''} is taken hold of.`,
    onDragOver: ({ active, over }) => said(active.id, over?.id, 'It would go to'),
    onDragEnd: ({ active, over }) => said(active.id, over?.id, 'See what it does, then put it to'),
    onDragCancel: () => 'It stays where it is.',
  }
}

interface WeekDraggingProps {
  readonly days: readonly TimetableDay[]
  readonly bookings: ReadonlyMap<string, Placed>
  readonly onPut: (booking: Placed, place: Place) => void
  readonly children: ReactNode
}

/** Bookings that are put to another departure or day, by mouse and by keys. What that does is shown before it is done. */
export function WeekDragging({ days, bookings, onPut, children }: WeekDraggingProps) {
  const { now, year } = useBusiness()
  // The place the keys have led to: with them there is no pointer that lies within one.
  const led = useRef<Place | null>(null)
  const placesOf = (id: UniqueIdentifier) => {
    const booking = bookings.get(String(id))
    return booking ? placesFor(booking, days, now) : []
  }
  const placeOf = (id: UniqueIdentifier, key: UniqueIdentifier) =>
    placesOf(id).find((place) => keyOf(place) === key)

  const coordinateGetter: KeyboardCoordinateGetter = (event, { active, currentCoordinates, context }) => {
    const step = steps[event.code]
    const booking = bookings.get(String(active))
    if (!step || !booking) return undefined
    event.preventDefault()
    const from = led.current ?? ({ kind: 'day', on: booking.on } as const)
    const place = nextPlace(placesOf(active), from, ...step)
    if (!place) return currentCoordinates
    led.current = place
    const rect = context.droppableRects.get(keyOf(place))
    return rect ? { x: rect.left, y: rect.top } : currentCoordinates
  }
  const collisionDetection: CollisionDetection = (args) => {
    const keys = new Set<UniqueIdentifier>(placesOf(args.active.id).map(keyOf))
    if (!args.pointerCoordinates) {
      return led.current ? [{ id: keyOf(led.current) }] : []
    }
    const within = pointerWithin(args).filter(({ id }) => keys.has(id))
    // A departure lies within its day: what is more exact counts.
    return within.sort((one, other) => Number(isDay(one.id)) - Number(isDay(other.id)))
  }
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter }),
  )
  const announcements = announcementsOf(bookings, placeOf, year)
  return (
    <DndContext
      accessibility={{ announcements, screenReaderInstructions }}
      sensors={sensors}
      collisionDetection={collisionDetection}
      onDragStart={() => {
        led.current = null
      }}
      onDragEnd={({ active, over }) => {
        const booking = bookings.get(String(active.id))
        const place = over ? placeOf(active.id, over.id) : undefined
        if (booking && place) onPut(booking, place)
      }}
    >
      {children}
    </DndContext>
  )
}

const isDay = (id: UniqueIdentifier) => String(id).startsWith('day ')

/** A place bookings can be put to, and whether one is held over it. */
export function usePlace(place: Place) {
  const { setNodeRef, isOver, active } = useDroppable({ id: keyOf(place) })
  return { setNodeRef, isOver, isHolding: active !== null }
}

/** A booking that can be taken hold of. */
export function useHeld(id: string) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({ id })
  const style = transform
    ? {
        transform: `translate3d(${Math.round(transform.x)}px, ${Math.round(transform.y)}px, 0)`,
        position: 'relative' as const,
        zIndex: 3,
      }
    : undefined
  return { attributes, listeners, setNodeRef, style, isDragging }
}
