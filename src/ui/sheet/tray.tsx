'use client'
import { ChevronUp } from 'lucide-react'
import { partGroups, type PartGroup } from '@/core/sheet/part'
import { partTypeIds, partTypeOf, type PartTypeId } from '@/core/sheet/registry'
import { Popover } from '../kit/popover'
import { partFaceOf } from './parts/registry'

const groupNames: Record<PartGroup, string> = {
  maps: 'Maps and their helpers',
  words: 'Words and figures',
  ornament: 'Ornament and ground',
}

/** New parts are taken from here, sorted by what they are for. */
type Props = { onTake: (type: PartTypeId, ready?: string) => void; hasMap: boolean }

export function Tray({ onTake, hasMap }: Props) {
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
                <span key={type} className="relative">
                  <button
                    type="button"
                    disabled={disabled}
                    title={disabled ? 'Make a map first' : `New ${partTypeOf(type).label.toLowerCase()}`}
                    onClick={() => onTake(type)}
                    className="flex w-[52px] flex-col items-center gap-0.5 rounded py-1 text-[11px] leading-4 whitespace-nowrap hover:bg-base-200 disabled:opacity-40"
                  >
                    <Icon size={15} aria-hidden />
                    {partTypeOf(type).label}
                  </button>
                  <ReadyOnes
                    names={Object.keys(partTypeOf(type).ready ?? {})}
                    onTake={(name) => onTake(type, name)}
                  />
                </span>
              )
            })}
        </div>
      ))}
    </div>
  )
}

/** What of a type is offered ready-made, behind a small mark in the corner of its button. */
function ReadyOnes({ names, onTake }: { names: string[]; onTake: (name: string) => void }) {
  if (!names.length) return null
  const label = `Ready ones: ${names.join(', ').toLowerCase()}`
  return (
    <Popover
      label={label}
      side="top"
      trigger={
        <button
          type="button"
          aria-label={label}
          title={label}
          className="absolute top-0 right-0 flex size-[18px] items-center justify-center rounded text-muted hover:bg-base-300"
        >
          <ChevronUp size={12} aria-hidden />
        </button>
      }
    >
      {(close) => (
        <ul className="flex min-w-36 flex-col">
          {names.map((name) => (
            <li key={name}>
              <button
                type="button"
                className="min-h-7 w-full rounded px-2 text-left hover:bg-base-200"
                onClick={() => {
                  close()
                  onTake(name)
                }}
              >
                {name}
              </button>
            </li>
          ))}
        </ul>
      )}
    </Popover>
  )
}
