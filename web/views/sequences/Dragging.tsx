import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
  type UniqueIdentifier,
} from '@dnd-kit/core'
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import type { CSSProperties, ReactNode } from 'react'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import type { Step } from '#core/model/step.ts'
import { withStepBeside } from '#core/sequences/editing.ts'
import styles from './sequences.module.css'

/** Said to who takes hold of a step by keyboard. */
const screenReaderInstructions = {
  draggable:
    'Space takes hold of the step, the arrow keys move it, Space lets it go, Escape leaves it where it was.',
}

interface DraggingProps {
  readonly steps: readonly Step[]
  readonly design: SequenceDesign
  readonly change: (next: SequenceDesign) => void
  readonly children: (step: Step, index: number) => ReactNode
}

/** Steps that stand side by side, in an order that the mouse and the arrow keys change. */
export function Dragging({ steps, design, change, children }: DraggingProps) {
  const sensors = useSensors(
    // A press is a press: only a hand that moves is dragging.
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const put = ({ active, over }: DragEndEvent) => {
    if (over === null || over.id === active.id) return
    change({
      ...design,
      steps: [...withStepBeside(design.steps, String(active.id), String(over.id))],
    })
  }
  const placeOf = ({ id }: { readonly id: UniqueIdentifier }) => steps.findIndex((one) => one.id === id) + 1
  const stays = 'It stays where it was.'
  const announcements: Announcements = {
    onDragStart: ({ active }) => `Step ${placeOf(active)} is taken hold of.`,
    onDragOver: ({ over }) => (over ? `It would be step ${placeOf(over)}.` : stays),
    onDragEnd: ({ over }) => (over ? `It is step ${placeOf(over)} now.` : stays),
    onDragCancel: () => stays,
  }
  return (
    <DndContext
      accessibility={{ announcements, screenReaderInstructions }}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={put}
    >
      <SortableContext items={steps.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <ol className={styles.steps}>{steps.map(children)}</ol>
      </SortableContext>
    </DndContext>
  )
}

/** A step that can be taken hold of, and where it is drawn meanwhile. */
export function useDragged(stepId: string) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: stepId })
  const style: CSSProperties = {
    transform: transform ? `translate3d(0, ${Math.round(transform.y)}px, 0)` : undefined,
    transition,
    ...(isDragging ? { position: 'relative', zIndex: 1 } : {}),
  }
  return { attributes, listeners, setNodeRef, style }
}
