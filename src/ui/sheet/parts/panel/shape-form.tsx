'use client'
import type { PanelPart } from '@/core/sheet/panel-view'
import type { PanelShape } from '@/core/sheet/parts/panel/spec'
import type { Sheet } from '@/core/sheet/spec'
import { fieldOf } from '@/core/data/dataset'
import { textAt } from '@/core/data/column'
import { Button, Check, IconButton, Row, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { Fold } from '../../../kit/fold'
import { NumberField } from '../../../kit/number-field'
import { usePrepared } from '../../../shell/contents'
import type { ChangeSettings } from '../../edit-sheet'
import { Minus, Plus } from 'lucide-react'

type Props = { sheet: Sheet; part: PanelPart; change: ChangeSettings<'panel'> }

/** So many features are listed; a longer list is no help. */
const mostListed = 500

const corners = (n: number): [number, number][] =>
  Array.from({ length: n }, (_, i) => {
    const angle = (2 * Math.PI * i) / n - Math.PI / 2
    return [0.5 + 0.5 * Math.cos(angle), 0.5 + 0.5 * Math.sin(angle)]
  })

/** The form that a panel is cut to, its edge and its lines. */
export function PanelShapeForm({ part, change }: Props) {
  const datasets = usePrepared()
  const { shape, frame, softEdgeMm, background } = part.settings
  const areas = [...datasets].filter(([, { dataset }]) => dataset.geometry.kind === 'areas')
  const newShape = (by: PanelShape['by']): PanelShape => {
    if (by === 'rectangle') return { by, cornerMm: 0 }
    if (by === 'ellipse') return { by }
    if (by === 'polygon') return { by, corners: corners(6) }
    const [[datasetId, prepared]] = areas
    const named = prepared.dataset.fields.find(({ key }) => prepared.fieldMeta(key).role === 'name')
    const field = named ?? prepared.dataset.fields[0]
    const first = field ? textAt(field.column, 0) : null
    return { by, datasetId, field: field?.key ?? '', values: first === null ? [] : [first], outside: 0 }
  }
  return (
    <Fold title="Form and frame" open>
      <Row label="Form">
        <Select
          label="Form of the panel"
          value={shape.by}
          options={[
            { value: 'rectangle', label: 'Rectangle' },
            { value: 'ellipse', label: 'Circle or ellipse' },
            { value: 'polygon', label: 'Polygon' },
            ...(areas.length ? [{ value: 'area' as const, label: 'Cut to an area' }] : []),
          ]}
          onChange={(by) => change('Form of the panel', (s) => void (s.shape = newShape(by)))}
        />
      </Row>
      {shape.by === 'rectangle' && (
        <Row label="Corners">
          <NumberField
            label="Radius of the corners"
            value={shape.cornerMm}
            unit="mm"
            min={0}
            max={500}
            onChange={(n) =>
              change('Corners', (s) => s.shape.by === 'rectangle' && void (s.shape.cornerMm = n), 'corners')
            }
          />
          <span className="flex-1" />
        </Row>
      )}
      {shape.by === 'polygon' && (
        <Row label="Sides">
          <NumberField
            label="Sides of the polygon"
            value={shape.corners.length}
            min={3}
            max={60}
            decimals={0}
            onChange={(n) =>
              change('Sides', (s) => s.shape.by === 'polygon' && void (s.shape.corners = corners(n)), 'sides')
            }
          />
          <span className="flex-1" />
        </Row>
      )}
      {shape.by === 'area' && <AreaForm shape={shape} change={change} />}
      <Row label="Soft edge">
        <NumberField
          label="Soft edge"
          value={softEdgeMm}
          unit="mm"
          min={0}
          max={200}
          onChange={(n) => change('Soft edge', (s) => void (s.softEdgeMm = n), 'soft edge')}
        />
        <span className="flex-1" />
      </Row>
      <Row label="Ground">
        <Check
          label="Coloured"
          checked={background !== null}
          onChange={(on) =>
            change(
              on ? 'Panel ground' : 'No panel ground',
              (s) => void (s.background = on ? '#ffffff' : null),
            )
          }
        />
        {background && (
          <ColourField
            label="Colour of the panel's ground"
            value={background}
            onChange={(colour) => change('Panel ground', (s) => void (s.background = colour), 'ground')}
          />
        )}
      </Row>
      <Row label="Line">
        <ColourField
          label="Frame colour"
          value={frame.colour}
          onChange={(colour) => change('Frame colour', (s) => void (s.frame.colour = colour), 'frame')}
        />
        <NumberField
          label="Frame width"
          value={frame.widthPt}
          unit="pt"
          min={0}
          max={20}
          step={0.25}
          onChange={(n) => change('Frame width', (s) => void (s.frame.widthPt = n), 'frame width')}
        />
      </Row>
      {frame.more.map((line, i) => (
        <Row key={i} label="and inside">
          <ColourField
            label={`Colour of line ${i + 2}`}
            value={line.colour}
            onChange={(colour) =>
              change('Frame line', (s) => void (s.frame.more[i].colour = colour), `line ${i}`)
            }
          />
          <NumberField
            label={`Width of line ${i + 2}`}
            value={line.widthPt}
            unit="pt"
            min={0}
            max={20}
            step={0.25}
            onChange={(n) => change('Frame line', (s) => void (s.frame.more[i].widthPt = n), `line w ${i}`)}
          />
          <IconButton
            label={`Remove line ${i + 2}`}
            onClick={() => change('Remove frame line', (s) => void s.frame.more.splice(i, 1))}
          >
            <Minus size={14} />
          </IconButton>
        </Row>
      ))}
      {frame.more.length < 4 && (
        <Button
          look="quiet"
          onClick={() =>
            change('Add frame line', (s) => {
              s.frame.more.push({ colour: s.frame.colour, widthPt: 0.5, gapPt: 2 })
            })
          }
        >
          <Plus size={14} aria-hidden /> Another line inside
        </Button>
      )}
    </Fold>
  )
}

/** Which features a panel is cut to. */
function AreaForm({
  shape,
  change,
}: {
  shape: Extract<PanelShape, { by: 'area' }>
  change: ChangeSettings<'panel'>
}) {
  const datasets = usePrepared()
  const prepared = datasets.get(shape.datasetId)
  const column = prepared && fieldOf(prepared.dataset, shape.field)
  const values = column
    ? [
        ...new Set(Array.from({ length: prepared.dataset.rowCount }, (_, row) => textAt(column, row) ?? '')),
      ].sort()
    : []
  const set = (name: string, recipe: (shape: Extract<PanelShape, { by: 'area' }>) => void, merge?: string) =>
    change(name, (s) => s.shape.by === 'area' && recipe(s.shape), merge)
  const areas = [...datasets].filter(([, { dataset }]) => dataset.geometry.kind === 'areas')
  return (
    <>
      <Row label="Areas of">
        <Select
          label="Dataset of the area"
          value={shape.datasetId}
          options={areas.map(([id, { entry }]) => ({ value: id, label: entry.name }))}
          onChange={(id) =>
            set('Cut to other areas', (a) => {
              const fields = datasets.get(id)?.dataset.fields ?? []
              Object.assign(a, { datasetId: id, field: fields[0]?.key ?? '', values: [] })
            })
          }
        />
        <Select
          label="Field of the area"
          value={shape.field}
          options={(prepared?.dataset.fields ?? []).map(({ key }) => ({
            value: key,
            label: prepared?.fieldMeta(key).label ?? key,
          }))}
          onChange={(field) => set('Cut by another field', (a) => Object.assign(a, { field, values: [] }))}
        />
      </Row>
      <Row label="Area">
        <Select
          label="Area to cut to"
          value={shape.values[0] ?? ''}
          options={[
            ...(shape.values.length ? [] : [{ value: '', label: 'choose…' }]),
            ...values.slice(0, mostListed).map((value) => ({ value, label: value || '(empty)' })),
          ]}
          onChange={(value) => set(`Cut to ${value}`, (a) => void (a.values = [value]))}
        />
      </Row>
      {values.length > mostListed && (
        <p className="text-xs text-muted">
          The first {mostListed} of {values.length} are listed.
        </p>
      )}
      <Row label="Outside">
        <NumberField
          label="Opacity of what lies outside"
          value={shape.outside * 100}
          unit="%"
          min={0}
          max={100}
          step={5}
          decimals={0}
          onChange={(n) => set('Outside', (a) => void (a.outside = n / 100), 'outside')}
        />
        <span className="flex-1" />
      </Row>
    </>
  )
}
