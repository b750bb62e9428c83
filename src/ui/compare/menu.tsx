'use client'
import type { ReactElement } from 'react'
import type { MapSpec } from '@/core/map/spec'
import { Button } from '../kit/controls'
import { Popover } from '../kit/popover'
import { usePrepared } from '../shell/contents'
import { useDocument } from '../shell/folio-store'
import { choices } from './against'
import { useComparing } from './store'

/** What a map or panel is compared with across a divider. `id` is that of the map or panel. */
export function CompareMenu({
  id,
  map,
  trigger,
}: {
  id: string
  map: MapSpec
  trigger: ReactElement<{ 'aria-haspopup'?: 'dialog' }>
}) {
  const { maps } = useDocument()
  const all = usePrepared()
  const { against, set } = useComparing()
  const now = against[id] ?? null
  const key = JSON.stringify(now)
  const list = choices(map, maps, all)
  const group = (by: 'layer' | 'map', title: string, close: () => void) => {
    const own = list.filter((one) => one.against.by === by)
    return own.length ? (
      <>
        <p className="mt-1 px-2 text-xs text-muted">{title}</p>
        {own.map((one) => (
          <button
            key={one.label + JSON.stringify(one.against)}
            type="button"
            aria-pressed={JSON.stringify(one.against) === key}
            onClick={() => {
              set(id, one.against)
              close()
            }}
            className={`truncate rounded px-2 py-1 text-left text-xs hover:bg-base-200 ${JSON.stringify(one.against) === key ? 'bg-tint font-medium text-primary' : ''}`}
          >
            {one.label}
          </button>
        ))}
      </>
    ) : null
  }
  return (
    <Popover label="Compare" align="end" side="top" className="w-60" trigger={trigger}>
      {(close) => (
        <div className="flex flex-col">
          {now && (
            <Button
              onClick={() => {
                set(id, null)
                close()
              }}
            >
              Stop comparing
            </Button>
          )}
          {group('layer', 'With and without a layer', close)}
          {group('map', 'With another map', close)}
        </div>
      )}
    </Popover>
  )
}
