'use client'
import { KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { sortableKeyboardCoordinates } from '@dnd-kit/sortable'

/** Where Enter and Space choose a line, dragging by keyboard begins with M. */
const byM = { start: ['KeyM'], cancel: ['Escape'], end: ['KeyM', 'Enter'] }

/** Lines of a list are dragged by the pointer, or taken by a key and moved with the arrows; by M where `chosen`. */
export function useDragSensors(chosen = false) {
  return useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: sortableKeyboardCoordinates,
      ...(chosen && { keyboardCodes: byM }),
    }),
  )
}
