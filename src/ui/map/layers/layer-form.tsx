'use client'
import type { Prepared } from '@/core/data/prepare'
import { shown } from '@/core/map/shown'
import { putIntoGroup } from '@/core/map/stack'
import type { Layer, MapSpec } from '@/core/map/spec'
import { blendModes, type BlendMode } from '@/core/scene/paint'
import { nanoid } from 'nanoid'
import { Check, Row, Section, Select } from '../../kit/controls'
import { FormulaField } from '../../kit/formula-field'
import { NumberField } from '../../kit/number-field'
import { TextField } from '../../kit/text-field'
import { editLayer, editMap } from '../edit-map'
import { Styles } from './styles'

/** A scale that may be left open. */
function ScaleEnd({
  label,
  value,
  proposed,
  onChange,
}: {
  label: string
  value: number | null
  proposed: number
  onChange: (value: number | null) => void
}) {
  return (
    <Row label={label}>
      <Check label="1 :" checked={value !== null} onChange={(on) => onChange(on ? proposed : null)} />
      {value !== null && (
        <NumberField
          label={`${label}, scale denominator`}
          value={value}
          min={1}
          max={1e9}
          step={100_000}
          decimals={0}
          onChange={onChange}
        />
      )}
    </Row>
  )
}

/**
 * What a layer is besides its look: name, group, how it lies over others, which features and at which scales
 * it shows.
 */
export function LayerForm({
  layer,
  whole,
  map,
  scale,
}: {
  layer: Layer
  /** The dataset without the layer's filter. */
  whole: Prepared
  map: MapSpec
  /** The scale that the map is looked at. */
  scale: number
}) {
  const set = (name: string, change: Partial<Layer>, merge?: string) =>
    editLayer(layer.id, name, (draft) => void Object.assign(draft, change), merge)
  const count = shown(layer, whole).dataset.rowCount
  const group = (value: string) =>
    editMap(map.id, { new: 'Group layers', '': 'Out of the group' }[value] ?? 'Into a group', (draft) => {
      const id = value === 'new' ? nanoid(8) : value || null
      if (id && value === 'new')
        draft.groups.push({
          id,
          name: `Group ${draft.groups.length + 1}`,
          visible: true,
          opacity: 1,
          blend: 'normal',
          folded: false,
        })
      putIntoGroup(draft, layer.id, id)
    })
  return (
    <>
      <Section title="Layer">
        <Row label="Name">
          <TextField
            label="Name of the layer"
            value={layer.name}
            onChange={(name) => set('Rename layer', { name })}
          />
        </Row>
        <Row label="Group">
          <Select
            label="Group"
            value={layer.groupId ?? ''}
            options={[
              { value: '', label: 'none' },
              ...map.groups.map(({ id, name }) => ({ value: id, label: name })),
              { value: 'new', label: 'a new group' },
            ]}
            onChange={group}
          />
        </Row>
        <Row label="Opacity">
          <NumberField
            label="Opacity"
            value={layer.opacity * 100}
            unit="%"
            min={0}
            max={100}
            step={5}
            decimals={0}
            onChange={(n) => set('Opacity', { opacity: n / 100 }, 'opacity')}
          />
        </Row>
        <Row label="Blend">
          <Select
            label="Blend mode"
            value={layer.blend}
            options={blendModes.map((mode) => ({ value: mode, label: mode }))}
            onChange={(blend: BlendMode) => set('Blend mode', { blend })}
          />
        </Row>
        <div className="grid grid-cols-2">
          <Check
            label="In the legend"
            checked={layer.inLegend}
            onChange={(inLegend) => set(inLegend ? 'Into the legend' : 'Out of the legend', { inLegend })}
          />
          <Check
            label="Labels keep off it"
            checked={layer.keepClear}
            onChange={(keepClear) => set(keepClear ? 'Keep labels off' : 'Let labels over it', { keepClear })}
          />
        </div>
        <Styles layer={layer} prepared={shown(layer, whole)} />
      </Section>
      <Section
        title="Shown"
        aside={
          <span className="text-xs text-muted">
            {layer.filter ? `${count} of ${whole.dataset.rowCount}` : `all ${count}`}
          </span>
        }
      >
        <FormulaField
          label="Only where"
          value={layer.filter}
          before={whole}
          placeholder="population >= 25000"
          later
          onChange={(filter) => set(filter.trim() ? 'Filter' : 'No filter', { filter: filter.trim() })}
        />
        <ScaleEnd
          label="Not closer than"
          value={layer.scales.closest}
          proposed={Number((scale / 2).toPrecision(2))}
          onChange={(closest) => set('Scale range', { scales: { ...layer.scales, closest } }, 'closest')}
        />
        <ScaleEnd
          label="Nor farther"
          value={layer.scales.farthest}
          proposed={Number((scale * 2).toPrecision(2))}
          onChange={(farthest) => set('Scale range', { scales: { ...layer.scales, farthest } }, 'farthest')}
        />
      </Section>
    </>
  )
}
