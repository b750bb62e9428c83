'use client'
import type { Draft } from 'immer'
import type { PlainSettings } from '@/core/kinds/plain/spec'
import { fontFamilies, fontFamilyIds } from '@/core/scene/fonts'
import type { Layer } from '@/core/map/spec'
import { Check, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { editLayer } from '../edit-map'
import type { KindUi, SettingsProps } from './kind-ui'

const change = (layer: Layer, name: string, recipe: (settings: Draft<PlainSettings>) => void, merge?: string): void => editLayer(layer.id, name, (draft) => draft.symbology.kind === 'plain' && recipe(draft.symbology.settings), merge)

function Settings({ layer, prepared }: SettingsProps) {
  const s = layer.symbology.settings as PlainSettings
  const shape = prepared.dataset.geometry.kind
  const texts = prepared.dataset.fields.filter((field) => field.column.kind === 'text').map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label }))
  const numbers = prepared.dataset.fields.filter((field) => field.column.kind === 'number').map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label }))
  return (
    <>
      {shape !== 'lines' && (
        <Section title="Fill" aside={<Check label="Filled" checked={s.fill !== null} onChange={(on) => change(layer, on ? 'Fill' : 'No fill', (d) => void (d.fill = on ? '#e9e6df' : null))} />}>
          {s.fill && (
            <Row label="Colour">
              <ColourField label="Fill colour" value={s.fill} onChange={(colour) => change(layer, 'Fill colour', (d) => void (d.fill = colour), 'fill')} />
            </Row>
          )}
          {shape === 'points' && (
            <Row label="Dot">
              <NumberField label="Diameter of a dot" value={s.dotPt} unit="pt" min={0} max={60} step={0.5} onChange={(n) => change(layer, 'Dot size', (d) => void (d.dotPt = n), 'dot')} />
            </Row>
          )}
        </Section>
      )}
      <Section title={shape === 'lines' ? 'Line' : 'Outline'}>
        <Row label="Line">
          <ColourField label="Line colour" value={s.stroke.colour} onChange={(colour) => change(layer, 'Line colour', (d) => void (d.stroke.colour = colour), 'line colour')} />
          <NumberField label="Line width" value={s.stroke.widthPt} unit="pt" min={0} max={20} step={0.1} onChange={(n) => change(layer, 'Line width', (d) => void (d.stroke.widthPt = n), 'line width')} />
        </Row>
        <Check label="Dashed" checked={s.stroke.dashed} onChange={(dashed) => change(layer, 'Dashes', (d) => void (d.stroke.dashed = dashed))} />
      </Section>
      {shape === 'points' && texts.length > 0 && (
        <Section title="Text">
          <Row label="Named by">
            <Select
              label="Named by"
              value={s.label?.field ?? ''}
              options={[{ value: '', label: 'no names' }, ...texts]}
              onChange={(field) => change(layer, 'Names', (d) => void (d.label = field ? { field, family: d.label?.family ?? 'source-sans-3', sizePt: d.label?.sizePt ?? 7, rankField: d.label?.rankField ?? null, atLeast: d.label?.atLeast ?? 0 } : null))}
            />
          </Row>
          {s.label && (
            <>
              <Row label="Typeface">
                <Select label="Typeface" value={s.label.family} options={fontFamilyIds.map((id) => ({ value: id, label: fontFamilies[id].label }))} onChange={(family) => change(layer, 'Typeface', (d) => void (d.label && (d.label.family = family)))} />
                <NumberField label="Type size" className="max-w-20" value={s.label.sizePt} unit="pt" min={3} max={72} step={0.5} onChange={(n) => change(layer, 'Type size', (d) => void (d.label && (d.label.sizePt = n)), 'size')} />
              </Row>
              <Row label="Only where">
                <Select label="Rank by" value={s.label.rankField ?? ''} options={[{ value: '', label: 'all' }, ...numbers]} onChange={(field) => change(layer, 'Rank names', (d) => void (d.label && (d.label.rankField = field || null)))} />
                {s.label.rankField && <NumberField label="At least" value={s.label.atLeast} onChange={(n) => change(layer, 'Fewer names', (d) => void (d.label && (d.label.atLeast = n)), 'least')} />}
              </Row>
            </>
          )}
        </Section>
      )}
    </>
  )
}

export const plainUi: KindUi = { Picker: () => null, Settings }
