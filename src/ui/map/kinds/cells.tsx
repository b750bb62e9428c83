'use client'
import { formatNumber } from '@/core/classify/labels'
import { textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { rowName } from '@/core/data/row-names'
import { cellShapes } from '@/core/grid/cells'
import type { CellPlan } from '@/core/kinds/cells/plan'
import { figures, type CellFigure, type CellSettings } from '@/core/kinds/cells/spec'
import { Row, Section, Segments, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { usePrepared } from '../../shell/contents'
import { useDocument, useFolio } from '../../shell/folio-store'
import { SchemePicker } from '../colours/scheme-picker'
import { AreaLookSections } from './area-look'
import { classingPicker, ColoursRow } from './classing-picker'
import { numberOptions } from './field-picker'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'

const figureLabels: Record<CellFigure, string> = {
  count: 'count of points',
  sum: 'sum',
  mean: 'mean',
  'weighted mean': 'weighted mean',
  median: 'median',
  share: 'share with one value',
}
const formLabels: Record<CellSettings['form'], string> = {
  classes: 'classes',
  sized: 'sized cells',
  spikes: 'spikes',
}

/** Fields with few enough words that a share of one makes sense. */
const wordOptions = ({ dataset, fieldMeta }: Prepared) =>
  dataset.fields
    .filter(({ column }) => column.kind !== 'number')
    .map(({ key }) => ({ value: key, label: fieldMeta(key).label }))

function wordsIn({ dataset }: Prepared, field: string | null): string[] {
  const column = field === null ? null : fieldOf(dataset, field)
  if (!column) return []
  const found = new Set<string>()
  for (let row = 0; row < dataset.rowCount && found.size < 60; row++) {
    const text = textAt(column, row)
    if (text !== null) found.add(text)
  }
  return [...found].sort()
}

function Picker(props: PickerProps) {
  const { control, layer, prepared, close, plan: made } = props
  const { s, change } = editingOf('cells', layer)
  const plan = made as CellPlan | null
  if (control === 'field') return <FigureRows layer={layer} prepared={prepared} />
  if (control === 'shape')
    return (
      <ChoiceList
        value={s.shape}
        options={cellShapes.map((value) => ({ value, label: value }))}
        onPick={(shape) => {
          change(`In ${shape}`, (d) => void (d.shape = shape))
          close()
        }}
      />
    )
  if (control === 'size') return <SpacingRows layer={layer} />
  if (control === 'colours') return <SchemePicker colouring={s} count={s.classes} onChange={change} />
  return classingPicker(props, s, {
    result: plan?.classification,
    noClasses: () => change('No classes', (d) => void (d.unclassed = 'linear')),
  })
}

/** What is reckoned in each cell. */
function FigureRows({ layer, prepared }: Pick<SettingsProps, 'layer' | 'prepared'>) {
  const { s, change } = editingOf('cells', layer)
  const numbers = numberOptions(prepared)
  const words = wordOptions(prepared)
  const fields = s.figure === 'share' ? words : numbers
  const possible = figures.filter(
    (figure) => figure === 'count' || (figure === 'share' ? words.length > 0 : numbers.length > 0),
  )
  return (
    <>
      <Row label="Figure">
        <Select
          label="Figure of each cell"
          value={s.figure}
          options={possible.map((value) => ({ value, label: figureLabels[value] }))}
          onChange={(figure) =>
            change(figureLabels[figure], (d) => {
              d.figure = figure
              const own = figure === 'share' ? words : numbers
              if (figure !== 'count' && !own.some(({ value }) => value === d.field))
                d.field = own[0]?.value ?? null
              if (figure === 'share') d.shareOf = wordsIn(prepared, d.field)[0] ?? null
            })
          }
        />
      </Row>
      {s.figure !== 'count' && (
        <Row label="Of">
          <Select
            label="Field of the figure"
            value={s.field ?? ''}
            options={fields}
            onChange={(field) =>
              change('Field of the cells', (d) => {
                d.field = field
                if (d.figure === 'share') d.shareOf = wordsIn(prepared, field)[0] ?? null
              })
            }
          />
        </Row>
      )}
      {s.figure === 'weighted mean' && (
        <Row label="Weighed by">
          <Select
            label="Field of the weights"
            value={s.weight ?? ''}
            options={[{ value: '', label: 'choose a field' }, ...numbers]}
            onChange={(weight) => change('Weights of the cells', (d) => void (d.weight = weight || null))}
          />
        </Row>
      )}
      {s.figure === 'share' && (
        <Row label="With">
          <Select
            label="Value of the share"
            value={s.shareOf ?? ''}
            options={wordsIn(prepared, s.field).map((value) => ({ value, label: value }))}
            onChange={(value) => change('Value of the share', (d) => void (d.shareOf = value))}
          />
        </Row>
      )}
    </>
  )
}

/** How large cells are, on the ground or on paper at the scale of the view. */
function SpacingRows({ layer }: Pick<SettingsProps, 'layer'>) {
  const { s, change } = editingOf('cells', layer)
  const { maps } = useDocument()
  const map = maps.find(({ layers }) => layers.some(({ id }) => id === layer.id))
  const view = useFolio((state) => (map ? state.views[map.id] : undefined))
  const kmPerMm = view ? view.scaleDenominator / 1e6 : null
  const set = (km: number) =>
    change('Size of cells', (d) => void (d.spacingKm = Math.min(5000, Math.max(0.01, km))), 'spacing')
  return (
    <Row label="Spacing">
      <NumberField
        label="Spacing of cells"
        value={s.spacingKm}
        unit="km"
        min={0.01}
        max={5000}
        step={s.spacingKm >= 10 ? 1 : 0.1}
        decimals={2}
        onChange={set}
      />
      {kmPerMm && (
        <NumberField
          label="Spacing of cells on paper"
          value={s.spacingKm / kmPerMm}
          unit="mm"
          min={0.1}
          step={0.1}
          decimals={1}
          onChange={(mm) => set(Number((mm * kmPerMm).toPrecision(4)))}
        />
      )}
    </Row>
  )
}

function Settings({ layer, prepared, plan: made }: SettingsProps) {
  const { s, change } = editingOf('cells', layer)
  const plan = made as CellPlan | null
  const areas = [...usePrepared()].filter(([, { dataset }]) => dataset.geometry.kind === 'areas')
  return (
    <>
      <Section title="Cells">
        <FigureRows layer={layer} prepared={prepared} />
        <Row label="Shape">
          <Select
            label="Shape of cells"
            value={s.shape}
            options={cellShapes.map((value) => ({ value, label: value }))}
            onChange={(shape) => change(`In ${shape}`, (d) => void (d.shape = shape))}
          />
        </Row>
        <SpacingRows layer={layer} />
        <Segments
          label="Cells shown as"
          value={s.form}
          options={(['classes', 'sized', 'spikes'] as const).map((value) => ({
            value,
            label: formLabels[value],
          }))}
          onChange={(form) => change(`Shown as ${formLabels[form]}`, (d) => void (d.form = form))}
        />
        {s.form === 'spikes' && (
          <Row label="Highest">
            <NumberField
              label="Height of the highest spike"
              value={s.highestMm}
              unit="mm"
              min={1}
              max={300}
              step={1}
              onChange={(mm) => change('Height of spikes', (d) => void (d.highestMm = mm), 'highest')}
            />
          </Row>
        )}
        <Row label="Empty ones">
          <Select
            label="Where cells without points are shown"
            value={s.empty?.datasetId ?? ''}
            options={[
              { value: '', label: 'left out' },
              ...areas.map(([id, { entry }]) => ({
                value: id,
                label: `zero within ${entry.name.toLowerCase()}`,
              })),
            ]}
            onChange={(datasetId) =>
              change('Empty cells', (d) => void (d.empty = datasetId ? { datasetId } : null))
            }
          />
        </Row>
        <ColoursRow colouring={s} classes={s.classes}>
          <SchemePicker colouring={s} count={s.classes} onChange={change} />
        </ColoursRow>
      </Section>
      {plan && <Plausible plan={plan} prepared={prepared} s={s} />}
      <AreaLookSections look={s} prepared={prepared} onChange={change} />
    </>
  )
}

/** From this share on a single feature is most of its cell. */
const mostly = 0.5

/** The cells with the highest values and what lies in them, so that one odd place is noticed. */
function Plausible({ plan, prepared, s }: { plan: CellPlan; prepared: Prepared; s: CellSettings }) {
  return (
    <Section title="Plausible?">
      <ol className="text-xs" aria-label="Cells with the highest values">
        {plan.top.map((cell, i) => (
          <li key={i} className="mb-1">
            <span className="font-semibold">{formatNumber(cell.value, cell.value < 10 ? 2 : 0)}</span>{' '}
            <span className="text-muted">
              {cell.points} {cell.points === 1 ? 'point' : 'points'}:{' '}
              {cell.members.map((row) => rowName(prepared, row)).join(', ')}
              {cell.points > cell.members.length ? ' …' : ''}
            </span>
            {s.figure === 'sum' && cell.firstShare > mostly && cell.points > 1 && (
              <span className="block text-caution">
                {rowName(prepared, cell.members[0])} is {Math.round(100 * cell.firstShare)} % of it
              </span>
            )}
          </li>
        ))}
      </ol>
      <p className="text-xs text-muted">
        {plan.cells.toLocaleString('en-GB')} cells with {plan.points.toLocaleString('en-GB')} points
        {plan.missing > 0 && `; ${plan.missing.toLocaleString('en-GB')} points without a value left out`}
        {plan.unplaced > 0 && `; ${plan.unplaced.toLocaleString('en-GB')} beyond the grid`}
      </p>
    </Section>
  )
}

export const cellsUi: KindUi = { Picker, Settings }
