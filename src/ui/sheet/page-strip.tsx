'use client'
import { closestCenter, DndContext } from '@dnd-kit/core'
import { arrayMove, SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { LayoutTemplate, Plus, Trash2 } from 'lucide-react'
import { useState } from 'react'
import type { Sheet } from '@/core/sheet/spec'
import { Button } from '../kit/controls'
import { editFolio, useFolio } from '../shell/folio-store'
import { TemplateDialog } from './templates/template-dialog'
import { SheetThumbnail } from './sheet-thumbnail'
import { useDragSensors } from '../kit/drag-sensors'

/** The sheets of the folio in their order, which is changed by dragging. */
export function PageStrip({ sheets, sheet, onAdd }: { sheets: Sheet[]; sheet: Sheet; onAdd: () => void }) {
  const [choosing, setChoosing] = useState(false)
  const tell = useFolio((state) => state.tell)
  const sensors = useDragSensors(true)
  const reorder = (from: number, to: number) =>
    editFolio('Reorder sheets', (draft) => void (draft.sheets = arrayMove(draft.sheets, from, to)))
  const remove = () => {
    editFolio(
      `Delete ${sheet.name}`,
      (draft) => void (draft.sheets = draft.sheets.filter((s) => s.id !== sheet.id)),
    )
    tell(`“${sheet.name}” was deleted.`, true)
  }
  return (
    <aside
      className="flex min-h-0 flex-col gap-2 overflow-y-auto border-r border-line bg-base-100 p-2"
      aria-label="Sheets"
    >
      <DndContext
        id="sheets"
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) => {
          const place = (id: unknown) => sheets.findIndex((one) => one.id === id)
          if (over && over.id !== active.id) reorder(place(active.id), place(over.id))
        }}
      >
        <SortableContext items={sheets} strategy={verticalListSortingStrategy}>
          {sheets.map((one) => (
            <StripPage key={one.id} sheet={one} current={one.id === sheet.id} />
          ))}
        </SortableContext>
      </DndContext>
      <Button onClick={onAdd}>
        <Plus size={15} /> Sheet
      </Button>
      <Button className="!px-1" title="A sheet from a template" onClick={() => setChoosing(true)}>
        <LayoutTemplate size={14} /> Template
      </Button>
      <TemplateDialog open={choosing} onClose={() => setChoosing(false)} sheet={sheet} />
      {sheets.length > 1 && (
        <Button look="quiet" title="Delete this sheet" onClick={remove}>
          <Trash2 size={14} /> Delete
        </Button>
      )}
    </aside>
  )
}

function StripPage({ sheet, current }: { sheet: Sheet; current: boolean }) {
  const select = useFolio((state) => state.select)
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: sheet.id })
  return (
    <button
      ref={setNodeRef}
      type="button"
      aria-current={current}
      {...listeners}
      onClick={() => select({ sheetId: sheet.id, partIds: [] })}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`rounded border p-1 text-left ${current ? 'border-primary ring-1 ring-primary' : 'border-line hover:border-muted'} ${isDragging ? 'relative z-10 opacity-70' : ''}`}
    >
      <SheetThumbnail sheet={sheet} />
      <span className="mt-1 block truncate text-xs">{sheet.name}</span>
    </button>
  )
}
