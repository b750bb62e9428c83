'use client'
import { List, Map as MapIcon, Ruler, Type, type LucideIcon } from 'lucide-react'
import { partTypeIds, partTypeOf, type PartTypeId } from '@/core/sheet/registry'

export const partIcons: Record<PartTypeId, LucideIcon> = {
  panel: MapIcon,
  legend: List,
  'scale-bar': Ruler,
  text: Type,
}

/** New parts are taken from here. */
export function Tray({
  onTake,
  disabled,
}: {
  onTake: (type: PartTypeId) => void
  disabled: (type: PartTypeId) => boolean
}) {
  return (
    <div
      role="toolbar"
      aria-label="Tray of new parts"
      className="floating absolute bottom-4 left-1/2 flex -translate-x-1/2 gap-0.5 p-1"
    >
      {partTypeIds.map((type) => {
        const Icon = partIcons[type]
        return (
          <button
            key={type}
            type="button"
            disabled={disabled(type)}
            title={disabled(type) ? 'Make a map first' : undefined}
            onClick={() => onTake(type)}
            className="flex w-[66px] flex-col items-center gap-1 rounded py-1.5 text-xs hover:bg-base-200 disabled:opacity-40"
          >
            <Icon size={16} aria-hidden />
            {partTypeOf(type).label}
          </button>
        )
      })}
    </div>
  )
}
