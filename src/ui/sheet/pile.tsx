'use client'
import { ArrowDown, ArrowUp, Copy, Eye, EyeOff, Lock, LockOpen, Trash2 } from 'lucide-react'
import type { Part, Sheet } from '@/core/sheet/spec'
import { ColumnHead, IconButton } from '../kit/controls'
import { useFolio } from '../shell/folio-store'
import { deletePart, duplicatePart, editPart, liftPart } from './edit-sheet'
import { partIcons } from './tray'

export const toggleHidden = (sheet: Sheet, part: Part) =>
  editPart(
    { sheetId: sheet.id, partId: part.id },
    part.hidden ? `Show ${part.name}` : `Hide ${part.name}`,
    (p) => void (p.hidden = !p.hidden),
  )
export const toggleLocked = (sheet: Sheet, part: Part) =>
  editPart(
    { sheetId: sheet.id, partId: part.id },
    part.locked ? `Unlock ${part.name}` : `Lock ${part.name}`,
    (p) => void (p.locked = !p.locked),
  )

/** The stacking order of parts, the topmost first. */
export function Pile({ sheet }: { sheet: Sheet }) {
  const { selection, select } = useFolio()
  const selected = sheet.parts.find((p) => p.id === selection.partId)
  return (
    <section aria-label="Pile" className="flex max-h-[42%] shrink-0 flex-col border-t border-line">
      <ColumnHead title="Pile">
        {selected && (
          <>
            <IconButton label="Part up" onClick={() => liftPart(sheet.id, selected.id, 1)}>
              <ArrowUp size={14} />
            </IconButton>
            <IconButton label="Part down" onClick={() => liftPart(sheet.id, selected.id, -1)}>
              <ArrowDown size={14} />
            </IconButton>
            <IconButton label="Duplicate part" onClick={() => duplicatePart(sheet.id, selected)}>
              <Copy size={14} />
            </IconButton>
            <IconButton label="Delete part" onClick={() => deletePart(sheet.id, selected)}>
              <Trash2 size={14} />
            </IconButton>
          </>
        )}
      </ColumnHead>
      <ol className="min-h-0 overflow-y-auto pb-1">
        {[...sheet.parts].reverse().map((part) => {
          const Icon = partIcons[part.type]
          const on = part.id === selection.partId
          return (
            <li
              key={part.id}
              className={`flex items-center border-l-3 pr-2 pl-2.5 ${on ? 'border-primary bg-tint' : 'border-transparent hover:bg-base-200'}`}
            >
              <button
                type="button"
                aria-current={on}
                onClick={() => select({ partId: part.id })}
                className={`flex min-h-7 min-w-0 flex-1 items-center gap-2 text-left ${on ? 'font-semibold' : ''} ${part.hidden ? 'text-muted' : ''}`}
              >
                <Icon size={14} aria-hidden className="shrink-0" />
                <span className="truncate">{part.name}</span>
              </button>
              <IconButton
                label={part.locked ? `Unlock ${part.name}` : `Lock ${part.name}`}
                className={`!size-6 ${part.locked ? '' : 'opacity-45'}`}
                onClick={() => toggleLocked(sheet, part)}
              >
                {part.locked ? <Lock size={13} /> : <LockOpen size={13} />}
              </IconButton>
              <IconButton
                label={part.hidden ? `Show ${part.name}` : `Hide ${part.name}`}
                className="!size-6"
                onClick={() => toggleHidden(sheet, part)}
              >
                {part.hidden ? <EyeOff size={14} /> : <Eye size={14} />}
              </IconButton>
            </li>
          )
        })}
      </ol>
    </section>
  )
}
