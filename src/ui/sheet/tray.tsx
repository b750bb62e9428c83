'use client'
import { partGroups, type PartGroup } from '@/core/sheet/part'
import { partTypeIds, partTypeOf, type PartTypeId } from '@/core/sheet/registry'
import { partFaceOf } from './parts/registry'

const groupNames: Record<PartGroup, string> = {
  maps: 'Maps and their helpers',
  words: 'Words and figures',
  ornament: 'Ornament and ground',
}

/** New parts are taken from here, sorted by what they are for. */
export function Tray({ onTake, hasMap }: { onTake: (type: PartTypeId) => void; hasMap: boolean }) {
  return (
    <div
      role="toolbar"
      aria-label="Tray of new parts"
      className="floating absolute bottom-3 left-1/2 flex max-w-[calc(100%-24px)] -translate-x-1/2 divide-x divide-line py-1"
    >
      {partGroups.map((group) => (
        <div
          key={group}
          role="group"
          aria-label={groupNames[group]}
          title={groupNames[group]}
          className="flex px-1"
        >
          {partTypeIds
            .filter((type) => partTypeOf(type).group === group)
            .map((type) => {
              const { icon: Icon, needsMap } = partFaceOf(type)
              const disabled = needsMap && !hasMap
              return (
                <button
                  key={type}
                  type="button"
                  disabled={disabled}
                  title={disabled ? 'Make a map first' : `New ${partTypeOf(type).label.toLowerCase()}`}
                  onClick={() => onTake(type)}
                  className="flex w-[52px] flex-col items-center gap-0.5 rounded py-1 text-[11px] leading-4 whitespace-nowrap hover:bg-base-200 disabled:opacity-40"
                >
                  <Icon size={15} aria-hidden />
                  {partTypeOf(type).label}
                </button>
              )
            })}
        </div>
      ))}
    </div>
  )
}
