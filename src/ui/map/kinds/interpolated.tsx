'use client'
import { useEffect, useMemo, useState } from 'react'
import { formatNumber } from '@/core/classify/labels'
import { variogramModels } from '@/core/grid/interpolate/kriging'
import { interpolationLabels } from '@/core/kinds/interpolated'
import type { VariogramView } from '@/core/kinds/interpolated/judge'
import { interpolations, type Interpolation } from '@/core/kinds/interpolated/spec'
import { symbologyOf } from '@/core/kinds/registry'
import type { SurfacePlan } from '@/core/kinds/surfaces/plan'
import { ask } from '@/workers/client'
import { Button, Check, Row, Section, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { useDocument } from '../../shell/folio-store'
import { Gallery } from '../gallery/gallery'
import { useLooked } from '../gallery/looked'
import { CellSize } from './cell-size'
import { FieldPicker } from './field-picker'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { SurfaceSections, surfacePicker } from './surface-form'
import { VariogramChart } from './variogram-chart'

const waysFor = ({ prepared }: Pick<SettingsProps, 'prepared'>): Interpolation[] =>
  interpolations.filter((way) => (way === 'pycnophylactic') === (prepared.dataset.geometry.kind === 'areas'))

function Picker(props: PickerProps) {
  const { control, layer, prepared, close } = props
  const { s, change } = editingOf('interpolated', layer)
  if (control === 'field')
    return (
      <FieldPicker
        value={s.field}
        prepared={prepared}
        onPick={(field, label) => {
          change(`Surface of ${label}`, (d) => {
            d.field = field
            // What was set by hand for one field says nothing of another.
            d.variogram = null
          })
          close()
        }}
      />
    )
  if (control === 'size')
    return (
      <ChoiceList
        value={s.way}
        options={waysFor(props).map((value) => ({ value, label: interpolationLabels[value] }))}
        onPick={(way) => {
          change(`By ${interpolationLabels[way]}`, (d) => void (d.way = way))
          close()
        }}
      />
    )
  return surfacePicker(props, { look: s, onChange: change })
}

function Settings({ layer, prepared, plan }: SettingsProps) {
  const { s, change } = editingOf('interpolated', layer)
  const ways = waysFor({ prepared })
  return (
    <>
      <Section title="Surface">
        {ways.length > 1 && (
          <Row label="By">
            <Select
              label="Method of the surface"
              value={s.way}
              options={ways.map((value) => ({ value, label: interpolationLabels[value] }))}
              onChange={(way) => change(`By ${interpolationLabels[way]}`, (d) => void (d.way = way))}
            />
          </Row>
        )}
        {s.way === 'inverse-distance' && (
          <Row label="Power">
            <NumberField
              label="Power of the distance"
              value={s.power}
              min={0.1}
              max={10}
              step={0.1}
              decimals={1}
              onChange={(n) => change('Power of the distance', (d) => void (d.power = n), 'power')}
            />
          </Row>
        )}
        {(s.way === 'inverse-distance' || s.way === 'kriging') && (
          <Row label="From the">
            <NumberField
              label="Nearest samples that count"
              value={s.nearest}
              unit="nearest"
              min={3}
              max={64}
              step={1}
              decimals={0}
              onChange={(n) => change('Nearest samples', (d) => void (d.nearest = Math.round(n)), 'nearest')}
            />
          </Row>
        )}
        {s.way === 'thin-plate' && (
          <Row label="Smoothing">
            <NumberField
              label="Smoothing of the spline"
              value={s.smoothing}
              min={0}
              max={1}
              step={0.001}
              decimals={4}
              onChange={(n) => change('Smoothing', (d) => void (d.smoothing = n), 'smoothing')}
            />
          </Row>
        )}
        <CellSize
          km={s.cellKm}
          onChange={(km) => change('Side of a cell', (d) => void (d.cellKm = km), 'cell')}
        />
      </Section>
      {s.way === 'kriging' && <VariogramSection layer={layer} prepared={prepared} plan={plan} />}
      {ways.length > 1 && <CompareMethods layer={layer} prepared={prepared} />}
      <SurfaceSections
        look={s}
        plan={plan as SurfacePlan | null}
        doubt={
          s.way === 'kriging'
            ? { label: 'Error over', unit: prepared.fieldMeta(s.field).unit, first: 1 }
            : null
        }
        onChange={change}
        layer={layer}
      />
    </>
  )
}

/** How unlike samples are by their distance, and the model of it. */
function VariogramSection({ layer }: SettingsProps) {
  const { s, change } = editingOf('interpolated', layer)
  const folio = useDocument()
  const [view, setView] = useState<VariogramView | null>(null)
  useEffect(() => {
    let here = true
    ask(folio, (worker) => worker.variogramOf(layer)).then(
      (next) => here && setView(next),
      () => undefined,
    )
    return () => void (here = false)
  }, [folio, layer])
  const used = view?.used
  const set = (part: Partial<{ nugget: number; sill: number; rangeKm: number }>, merge: string) =>
    change(
      'Variogram',
      (d) => {
        if (!used) return
        d.variogram = {
          nugget: used.nugget,
          sill: used.sill,
          rangeKm: used.range / 1000,
          ...d.variogram,
          ...part,
        }
      },
      merge,
    )
  return (
    <Section title="Variogram">
      <Row label="Model">
        <Select
          label="Model of the variogram"
          value={s.model}
          options={variogramModels.map((value) => ({
            value,
            label: value === 'gaussian' ? 'Gaussian' : value,
          }))}
          onChange={(model) => change('Model of the variogram', (d) => void (d.model = model))}
        />
      </Row>
      {view && used && (
        <>
          <VariogramChart view={view} />
          {(
            [
              ['Nugget', 'nugget', used.nugget, ''],
              ['Sill', 'sill', used.sill, ''],
              ['Range', 'rangeKm', used.range / 1000, 'km'],
            ] as const
          ).map(([label, key, value, unit]) => (
            <Row key={key} label={label}>
              <NumberField
                label={label}
                value={value}
                unit={unit}
                min={key === 'rangeKm' ? 1e-3 : 0}
                step={value / 20 || 0.1}
                decimals={3}
                onChange={(n) => set({ [key]: n }, key)}
              />
            </Row>
          ))}
          {s.variogram && (
            <Button
              look="quiet"
              onClick={() => change('The variogram that fits best', (d) => void (d.variogram = null))}
            >
              The one that fits best
            </Button>
          )}
        </>
      )}
      <Check
        label="Show the standard error"
        checked={s.showError}
        onChange={(on) =>
          change(on ? 'Show the standard error' : 'Show the values', (d) => void (d.showError = on))
        }
      />
    </Section>
  )
}

const missWords = (miss: number, unit: string): string =>
  `misses by ${formatNumber(miss, miss < 10 ? 2 : 1)} ${unit}`.trim()

/** The same map by each method, the one that misses least what it does not know first. */
function CompareMethods({ layer, prepared }: Pick<SettingsProps, 'layer' | 'prepared'>) {
  const { s, change } = editingOf('interpolated', layer)
  const folio = useDocument()
  const [open, setOpen] = useState(false)
  const [found, setFound] = useState<{ way: Interpolation; miss: number }[] | null>(null)
  useEffect(() => {
    let here = true
    setFound(null)
    if (open)
      ask(folio, (worker) => worker.missesOf(layer)).then(
        (misses) => here && setFound(misses),
        () => here && setFound([]),
      )
    return () => void (here = false)
  }, [open, folio, layer])
  const looked = useLooked(layer, prepared)
  const { unit } = prepared.fieldMeta(s.field)
  const alternatives = useMemo(
    () =>
      found &&
      found
        .filter(({ miss }) => Number.isFinite(miss))
        .map(({ way, miss }) => ({
          id: way,
          label: interpolationLabels[way],
          detail: missWords(miss, unit),
          layer: {
            ...layer,
            symbology: symbologyOf('interpolated', { ...layer.symbology.settings, way, showError: false }),
          },
        })),
    [found, layer, unit],
  )
  const unusable = (found ?? [])
    .filter(({ miss }) => !Number.isFinite(miss))
    .map(({ way }) => interpolationLabels[way])
    .join(', ')
  return (
    <Section title="Compare methods">
      <Button onClick={() => setOpen(true)}>Every method on this map…</Button>
      {looked && (
        <Gallery
          open={open}
          onClose={() => setOpen(false)}
          title="The same surface by every method"
          order="Ordered by how far a method misses samples that are left out one by one (root of the mean square)."
          looked={looked}
          alternatives={alternatives}
          chosen={s.way}
          remark={unusable && `Cannot be used on these samples: ${unusable}.`}
          onAdopt={(id) => {
            const way = id as Interpolation
            change(`By ${interpolationLabels[way]}`, (d) => void (d.way = way))
          }}
        />
      )}
    </Section>
  )
}

export const interpolatedUi: KindUi = { Picker, Settings }
