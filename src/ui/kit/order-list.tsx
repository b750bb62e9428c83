'use client'
import { closestCenter, DndContext } from '@dnd-kit/core'
import { arrayMove, SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { GripVertical } from 'lucide-react'
import { useDragSensors } from './drag-sensors'

/** Names in an order of one's own: dragged, or taken with Space and moved with the arrow keys. */
export function OrderList({
  label,
  names,
  onChange,
}: {
  label: string
  /** Each once. */
  names: string[]
  onChange: (names: string[]) => void
}) {
  const sensors = useDragSensors()
  return (
    <DndContext
      id={label}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        if (!over || over.id === active.id) return
        onChange(arrayMove(names, names.indexOf(String(active.id)), names.indexOf(String(over.id))))
      }}
    >
      <SortableContext items={names} strategy={verticalListSortingStrategy}>
        <ol aria-label={label} className="max-h-48 overflow-y-auto rounded border border-line">
          {names.map((name) => (
            <Line key={name} name={name} />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  )
}

function Line({ name }: { name: string }) {
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({ id: name })
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`bg-base-100 ${isDragging ? 'relative z-10 opacity-70' : ''}`}
    >
      <button
        type="button"
        {...attributes}
        {...listeners}
        className="flex min-h-7 w-full cursor-grab items-center gap-1.5 px-1.5 text-left hover:bg-base-200"
      >
        <GripVertical size={13} className="shrink-0 text-muted" aria-hidden />
        <span className="truncate">{name}</span>
      </button>
    </li>
  )
}
