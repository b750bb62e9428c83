'use client'
import { reaches } from '@/core/grid/potential'
import type { PotentialSettings } from '@/core/kinds/potential/spec'
import type { SurfacePlan } from '@/core/kinds/surfaces/plan'
import { Row, Section, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { usePrepared } from '../../shell/contents'
import { CellSize } from './cell-size'
import { FieldPicker } from './field-picker'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { SurfaceSections, surfacePicker } from './surface-form'

const reachLabels: Record<PotentialSettings['reach'], string> = {
  exponential: 'exponential',
  power: 'a power of the distance',
  gaussian: 'Gaussian',
}

function Picker(props: PickerProps) {
  const { control, layer, prepared, close } = props
  const { s, change } = editingOf('potential', layer)
  if (control === 'field')
    return (
      <FieldPicker
        value={s.field}
        prepared={prepared}
        onPick={(field, label) => {
          change(`Potential of ${label}`, (d) => void (d.field = field))
          close()
        }}
      />
    )
  if (control === 'size') return <Fading layer={layer} />
  return surfacePicker(props, { look: s, onChange: change })
}

/** How values fade with distance. */
function Fading({ layer }: Pick<SettingsProps, 'layer'>) {
  const { s, change } = editingOf('potential', layer)
  return (
    <div className="flex flex-col gap-1.5">
      <Row label="A half at">
        {s.along?.speed ? (
          <NumberField
            label="Minutes at which a value counts half"
            value={s.spanMin}
            unit="min"
            min={0.1}
            max={100_000}
            step={5}
            decimals={1}
            onChange={(minutes) => change('Span', (d) => void (d.spanMin = minutes), 'span')}
          />
        ) : (
          <NumberField
            label="Distance at which a value counts half"
            value={s.spanKm}
            unit="km"
            min={0.001}
            max={20_000}
            step={Math.max(0.1, Number((s.spanKm / 20).toPrecision(1)))}
            decimals={2}
            onChange={(km) => change('Span', (d) => void (d.spanKm = km), 'span')}
          />
        )}
      </Row>
      <AlongRows layer={layer} />
      <Row label="Fading">
        <Select
          label="How values fade"
          value={s.reach}
          options={reaches.map((value) => ({ value, label: reachLabels[value] }))}
          onChange={(reach) => change('How values fade', (d) => void (d.reach = reach))}
        />
      </Row>
      {s.reach !== 'gaussian' && (
        <Row label="Exponent">
          <NumberField
            label="Exponent"
            value={s.exponent}
            min={0.1}
            max={10}
            step={0.1}
            decimals={2}
            onChange={(n) => change('Exponent', (d) => void (d.exponent = n), 'exponent')}
          />
        </Row>
      )}
    </div>
  )
}

/** Whether distances go straight or along lines, and how fast. */
function AlongRows({ layer }: Pick<SettingsProps, 'layer'>) {
  const { s, change } = editingOf('potential', layer)
  const all = usePrepared()
  const lines = [...all].filter(([, { dataset }]) => dataset.geometry.kind === 'lines')
  const own = s.along && all.get(s.along.datasetId)
  if (!lines.length) return null
  return (
    <>
      <Row label="Going">
        <Select
          label="What distances go along"
          value={s.along?.datasetId ?? ''}
          options={[
            { value: '', label: 'straight' },
            ...lines.map(([id, { entry }]) => ({ value: id, label: `along ${entry.name.toLowerCase()}` })),
          ]}
          onChange={(datasetId) =>
            change(
              'What distances go along',
              (d) => void (d.along = datasetId ? { datasetId, speed: null, toleranceM: 100 } : null),
            )
          }
        />
      </Row>
      {s.along && own && (
        <>
          <Row label="Speed">
            <Select
              label="Field of the speed"
              value={s.along.speed ?? ''}
              options={[
                { value: '', label: 'none: kilometres' },
                ...own.dataset.fields
                  .filter(({ column }) => column.kind === 'number')
                  .map(({ key }) => ({ value: key, label: `${own.fieldMeta(key).label}, km/h` })),
              ]}
              onChange={(speed) =>
                change('Speed on lines', (d) => d.along && void (d.along.speed = speed || null))
              }
            />
          </Row>
          <Row label="Joined within">
            <NumberField
              label="Distance within which ends are joined"
              value={s.along.toleranceM}
              unit="m"
              min={0}
              max={10_000}
              step={10}
              decimals={0}
              onChange={(m) =>
                change('Joined within', (d) => d.along && void (d.along.toleranceM = m), 'tolerance')
              }
            />
          </Row>
        </>
      )}
    </>
  )
}

function Settings({ layer, plan }: SettingsProps) {
  const { s, change } = editingOf('potential', layer)
  return (
    <>
      <Section title="Potential">
        <Fading layer={layer} />
        <CellSize
          km={s.cellKm}
          onChange={(km) => change('Side of a cell', (d) => void (d.cellKm = km), 'cell')}
        />
      </Section>
      <SurfaceSections
        look={s}
        plan={plan as SurfacePlan | null}
        doubt={null}
        onChange={change}
        layer={layer}
      />
    </>
  )
}

export const potentialUi: KindUi = { Picker, Settings }
