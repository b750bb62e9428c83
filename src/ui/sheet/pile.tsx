'use client'
import { closestCenter, DndContext } from '@dnd-kit/core'
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import {
  ArrowDown,
  ArrowUp,
  Copy,
  Eye,
  EyeOff,
  Folder,
  Lock,
  LockOpen,
  Snowflake,
  Trash2,
} from 'lucide-react'
import { nodeId, partsIn, pileTree, type PileNode } from '@/core/sheet/pile'
import type { Part, Sheet } from '@/core/sheet/spec'
import { ColumnHead, IconButton } from '../kit/controls'
import { useFolio } from '../shell/folio-store'
import {
  deleteParts,
  duplicateParts,
  liftParts,
  movePartBeside,
  toggleHidden,
  toggleLocked,
} from './edit-sheet'
import { partFaceOf } from './parts/registry'
import { useDragSensors } from '../kit/drag-sensors'

type Line = { node: PileNode; depth: number }

/** The tree as lines, the topmost first. */
const linesOf = (nodes: PileNode[], depth = 0): Line[] =>
  [...nodes]
    .reverse()
    .flatMap((node): Line[] => [
      { node, depth },
      ...(node.is === 'group' ? linesOf(node.children, depth + 1) : []),
    ])

/** The stacking order of parts and groups, the topmost first. Lines are dragged, or moved with the arrows. */
export function Pile({ sheet, selected }: { sheet: Sheet; selected: Part[] }) {
  const lines = linesOf(pileTree(sheet))
  const ids = selected.map(({ id }) => id)
  const sensors = useDragSensors(true)
  return (
    <section aria-label="Pile" className="flex max-h-[42%] shrink-0 flex-col border-t border-line">
      <ColumnHead title="Pile">
        {selected.length > 0 && (
          <>
            <IconButton label="Part up" onClick={() => liftParts(sheet.id, ids, 'up')}>
              <ArrowUp size={14} />
            </IconButton>
            <IconButton label="Part down" onClick={() => liftParts(sheet.id, ids, 'down')}>
              <ArrowDown size={14} />
            </IconButton>
            <IconButton label="Duplicate part" onClick={() => duplicateParts(sheet.id, selected)}>
              <Copy size={14} />
            </IconButton>
            <IconButton label="Delete part" onClick={() => deleteParts(sheet.id, selected)}>
              <Trash2 size={14} />
            </IconButton>
          </>
        )}
      </ColumnHead>
      <DndContext
        id={`pile of ${sheet.id}`}
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) => {
          if (!over || over.id === active.id) return
          const place = (id: unknown) => lines.findIndex(({ node }) => nodeId(node) === id)
          const above = place(over.id) < place(active.id)
          movePartBeside(sheet.id, String(active.id), { besideId: String(over.id), above })
        }}
      >
        <SortableContext items={lines.map(({ node }) => nodeId(node))} strategy={verticalListSortingStrategy}>
          <ol className="min-h-0 overflow-y-auto pb-1">
            {lines.map((line) => (
              <PileLine key={nodeId(line.node)} sheet={sheet} line={line} chosen={ids} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
    </section>
  )
}

function PileLine({ sheet, line: { node, depth }, chosen }: { sheet: Sheet; line: Line; chosen: string[] }) {
  const select = useFolio((state) => state.select)
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: nodeId(node) })
  const parts = partsIn(node)
  const ids = parts.map(({ id }) => id)
  const on = ids.every((id) => chosen.includes(id))
  const name = node.is === 'part' ? node.part.name : node.group.name
  const Icon = node.is === 'part' ? partFaceOf(node.part.type).icon : Folder
  const hidden = parts.every((part) => part.hidden)
  const locked = parts.every((part) => part.locked)
  const frozen = node.is === 'part' && node.part.type === 'panel' && node.part.settings.frozen
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition, paddingLeft: 10 + 14 * depth }}
      className={`flex items-center border-l-3 pr-2 ${on ? 'border-primary bg-tint' : 'border-transparent hover:bg-base-200'} ${isDragging ? 'relative z-10 opacity-70' : ''}`}
    >
      <button
        type="button"
        aria-current={on}
        {...listeners}
        onClick={(event) => {
          const rest = chosen.filter((id) => !ids.includes(id))
          const many = event.shiftKey || event.ctrlKey || event.metaKey
          if (!many) select({ partIds: ids })
          else select({ partIds: on ? rest : [...rest, ...ids] })
        }}
        className={`flex min-h-7 min-w-0 flex-1 items-center gap-2 text-left ${on ? 'font-semibold' : ''} ${hidden ? 'text-muted' : ''}`}
      >
        <Icon size={14} aria-hidden className="shrink-0" />
        <span className="truncate">{name}</span>
        {frozen && (
          <span
            title={`Frozen on ${new Date(frozen.at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })}`}
          >
            <Snowflake size={12} aria-label="frozen" />
          </span>
        )}
      </button>
      <IconButton
        label={locked ? `Unlock ${name}` : `Lock ${name}`}
        className={`!size-6 ${locked ? '' : 'opacity-45'}`}
        onClick={() => toggleLocked(sheet.id, parts)}
      >
        {locked ? <Lock size={13} /> : <LockOpen size={13} />}
      </IconButton>
      <IconButton
        label={hidden ? `Show ${name}` : `Hide ${name}`}
        className="!size-6"
        onClick={() => toggleHidden(sheet.id, parts)}
      >
        {hidden ? <EyeOff size={14} /> : <Eye size={14} />}
      </IconButton>
    </li>
  )
}
