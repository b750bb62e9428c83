'use client'
import { ChevronDown, ChevronRight, Eye, EyeOff, SlidersHorizontal } from 'lucide-react'
import type { Draft } from 'immer'
import type { LayerGroup, MapSpec } from '@/core/map/spec'
import { blendModes, type BlendMode } from '@/core/scene/paint'
import { Button, IconButton, Row, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { Popover } from '../../kit/popover'
import { TextField } from '../../kit/text-field'
import { editMap } from '../edit-map'

/** The head of a group in the layer stack: folded, hidden, named and blended as one. */
export function GroupRow({ map, group, count }: { map: MapSpec; group: LayerGroup; count: number }) {
  const change = (name: string, recipe: (draft: Draft<LayerGroup>) => void, merge?: string) =>
    editMap(
      map.id,
      name,
      (draft) => {
        const changed = draft.groups.find(({ id }) => id === group.id)
        if (changed) recipe(changed)
      },
      merge && `${group.id} ${merge}`,
    )
  const dissolve = () =>
    editMap(map.id, `Dissolve ${group.name}`, (draft) => {
      for (const layer of draft.layers) if (layer.groupId === group.id) layer.groupId = null
      draft.groups = draft.groups.filter(({ id }) => id !== group.id)
    })
  return (
    <li className="flex items-center gap-1 h-7 border-b border-line bg-base-200 pr-2 pl-1">
      <button
        type="button"
        aria-expanded={!group.folded}
        className="flex min-w-0 flex-1 items-center gap-1 text-left"
        onClick={() =>
          change(group.folded ? 'Unfold group' : 'Fold group', (d) => void (d.folded = !d.folded))
        }
      >
        {group.folded ? <ChevronRight size={14} aria-hidden /> : <ChevronDown size={14} aria-hidden />}
        <span className={`truncate text-xs font-semibold ${group.visible ? '' : 'text-muted'}`}>
          {group.name}
        </span>
        <span className="ml-1 shrink-0 text-xs text-muted">
          {count === 1 ? '1 layer' : `${count} layers`}
        </span>
      </button>
      <Popover
        label={`Group ${group.name}`}
        align="end"
        className="w-64"
        trigger={
          <IconButton label={`Settings of ${group.name}`}>
            <SlidersHorizontal size={14} />
          </IconButton>
        }
      >
        {(close) => (
          <>
            <Row label="Name">
              <TextField
                label="Name of the group"
                value={group.name}
                onChange={(name) => change('Rename group', (d) => void (d.name = name.trim()))}
              />
            </Row>
            <Row label="Opacity">
              <NumberField
                label="Opacity of the group"
                value={group.opacity * 100}
                unit="%"
                min={0}
                max={100}
                step={5}
                decimals={0}
                onChange={(n) => change('Opacity', (d) => void (d.opacity = n / 100), 'opacity')}
              />
            </Row>
            <Row label="Blend">
              <Select
                label="Blend mode of the group"
                value={group.blend}
                options={blendModes.map((mode) => ({ value: mode, label: mode }))}
                onChange={(mode: BlendMode) => change('Blend mode', (d) => void (d.blend = mode))}
              />
            </Row>
            <Button
              className="mt-2 w-full"
              onClick={() => {
                dissolve()
                close()
              }}
            >
              Dissolve the group
            </Button>
          </>
        )}
      </Popover>
      <IconButton
        label={group.visible ? `Hide ${group.name}` : `Show ${group.name}`}
        onClick={() =>
          change(group.visible ? 'Hide group' : 'Show group', (d) => void (d.visible = !d.visible))
        }
      >
        {group.visible ? <Eye size={16} /> : <EyeOff size={16} />}
      </IconButton>
    </li>
  )
}
