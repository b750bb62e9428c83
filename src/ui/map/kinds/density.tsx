'use client'
import { kernels } from '@/core/grid/kernel-density'
import { kernelWords } from '@/core/kinds/density'
import { bandwidthOf, proposedPerKm2, ruledBandwidthKm } from '@/core/kinds/density/source'
import type { SurfacePlan } from '@/core/kinds/surfaces/plan'
import { Check, Row, Section, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { SurfaceSections, surfacePicker } from './surface-form'

const weightOptions = ({ prepared }: Pick<SettingsProps, 'prepared'>) => [
  { value: '', label: 'each point once' },
  ...prepared.dataset.fields
    .filter(({ column }) => column.kind === 'number')
    .map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label })),
]

function Picker(props: PickerProps) {
  const { control, layer, prepared, close } = props
  const { s, change } = editingOf('density', layer)
  if (control === 'field')
    return (
      <ChoiceList
        value={s.weight ?? ''}
        options={weightOptions(props)}
        onPick={(field) => {
          change('What points stand for', (d) => {
            d.weight = field || null
            d.perKm2 = proposedPerKm2(prepared, d.weight)
          })
          close()
        }}
      />
    )
  if (control === 'size') return <Bandwidth layer={layer} prepared={prepared} />
  return surfacePicker(props, { look: s, onChange: change })
}

function Bandwidth({ layer, prepared }: Pick<SettingsProps, 'layer' | 'prepared'>) {
  const { s, change } = editingOf('density', layer)
  const now = bandwidthOf(s, prepared)
  const ruled = ruledBandwidthKm(s, prepared)
  const top = Math.max(now, ruled * 3 || 0, 1)
  const set = (km: number) => change('Bandwidth', (d) => void (d.bandwidthKm = km), 'bandwidth')
  return (
    <div className="flex flex-col gap-1.5 p-1">
      <Row label="Bandwidth">
        <NumberField
          label="Bandwidth"
          value={now}
          unit="km"
          min={0.001}
          max={20_000}
          step={Math.max(0.1, Number((now / 20).toPrecision(1)))}
          decimals={2}
          onChange={set}
        />
        {s.bandwidthKm !== null && (
          <button
            type="button"
            className="link text-xs"
            onClick={() => change('Bandwidth by rule', (d) => void (d.bandwidthKm = null))}
          >
            by rule
          </button>
        )}
      </Row>
      <input
        type="range"
        className="range range-xs"
        aria-label="Bandwidth by hand"
        min={top / 100}
        max={top}
        step={top / 200}
        value={now}
        onChange={({ target }) => set(Number(Number(target.value).toPrecision(3)))}
      />
    </div>
  )
}

function Settings({ layer, prepared, plan }: SettingsProps) {
  const { s, change } = editingOf('density', layer)
  return (
    <>
      <Section title="Density">
        <Row label="Counting">
          <Select
            label="What each point stands for"
            value={s.weight ?? ''}
            options={weightOptions({ prepared })}
            onChange={(field) =>
              change('What points stand for', (d) => {
                d.weight = field || null
                d.perKm2 = proposedPerKm2(prepared, d.weight)
              })
            }
          />
        </Row>
        <Row label="Kernel">
          <Select
            label="Kernel"
            value={s.kernel}
            options={kernels.map((value) => ({ value, label: kernelWords[value] }))}
            onChange={(kernel) => change('Kernel', (d) => void (d.kernel = kernel))}
          />
        </Row>
        <Bandwidth layer={layer} prepared={prepared} />
        <Check
          label="Adapts to the points"
          checked={s.adaptive}
          onChange={(on) =>
            change(on ? 'Adaptive bandwidth' : 'One bandwidth', (d) => void (d.adaptive = on))
          }
        />
        <Row label="Values per">
          <Select
            label="Ground that values are for"
            value={String(s.perKm2)}
            options={[1, 100, 10_000, 1_000_000].map((n) => ({
              value: String(n),
              label: n === 1 ? 'km²' : `${n.toLocaleString('en-GB')} km²`,
            }))}
            onChange={(n) => change('Values per ground', (d) => void (d.perKm2 = Number(n)))}
          />
        </Row>
        <Row label="Cells">
          <NumberField
            label="Side of a cell"
            value={s.cellKm ?? bandwidthOf(s, prepared) / 10}
            unit="km"
            min={0.001}
            max={5000}
            decimals={3}
            onChange={(km) => change('Side of a cell', (d) => void (d.cellKm = km), 'cell')}
          />
          {s.cellKm !== null && (
            <button
              type="button"
              className="link text-xs"
              onClick={() => change('Cells by rule', (d) => void (d.cellKm = null))}
            >
              by rule
            </button>
          )}
        </Row>
      </Section>
      <SurfaceSections
        look={s}
        plan={plan as SurfacePlan | null}
        doubt={{ label: 'Fewer than', unit: 'points', first: 3 }}
        onChange={change}
        layer={layer}
      />
    </>
  )
}

export const densityUi: KindUi = { Picker, Settings }
