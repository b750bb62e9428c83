'use client'
import { Plus, Shuffle, Trash2 } from 'lucide-react'
import { totalOf } from '@/core/kinds/dots'
import { closeness, closingValue, proposedValue } from '@/core/kinds/dots/counts'
import { eachWords } from '@/core/kinds/dots/legend'
import type { DotPlan } from '@/core/kinds/dots/plan'
import { unordered } from '@/core/colour/schemes'
import type { Prepared } from '@/core/data/prepare'
import { rowName } from '@/core/data/row-names'
import { Button, IconButton, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { usePrepared } from '../../shell/contents'
import { useDocument, useFolio } from '../../shell/folio-store'
import { useShapesSaid } from './shapes-said'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'

/** Fields of numbers, totals first. */
const numberOptions = ({ dataset, fieldMeta }: Prepared) =>
  dataset.fields
    .filter(({ column }) => column.kind === 'number')
    .map(({ key }) => ({ value: key, label: fieldMeta(key).label, isTotal: fieldMeta(key).role === 'total' }))
    .sort((a, b) => Number(b.isTotal) - Number(a.isTotal))

/** Values of a dot that give about half, as many and twice as many dots as now, and the one proposed. */
function eachOptions(each: number, total: number): number[] {
  const dots = total / each
  return [...new Set([0.25, 0.5, 1, 2, 4].map((by) => proposedValue(total, dots * by)).concat(each))].sort(
    (a, b) => a - b,
  )
}

function Picker({ control, layer, prepared, close }: PickerProps) {
  const { s, change } = editingOf('dots', layer)
  const total = totalOf(
    prepared,
    s.fields.map(({ field }) => field),
  )
  if (control === 'size')
    return (
      <ChoiceList
        value={String(s.each)}
        options={eachOptions(s.each, total).map((each) => ({
          value: String(each),
          label: `${eachWords(each)}: ${Math.round(total / each).toLocaleString('en-GB')} dots`,
        }))}
        onPick={(each) => {
          change('Value of a dot', (d) => void (d.each = Number(each)))
          close()
        }}
      />
    )
  if (control !== 'field') return null
  return (
    <ChoiceList
      value={s.fields[0].field}
      options={numberOptions(prepared)}
      onPick={(field) => {
        change('Dots of another field', (d) => {
          d.fields[0].field = field
          d.each = proposedValue(
            totalOf(
              prepared,
              d.fields.map((one) => one.field),
            ),
          )
        })
        close()
      }}
    />
  )
}

function Settings({ layer, prepared, plan }: SettingsProps) {
  const { s, change } = editingOf('dots', layer)
  const options = numberOptions(prepared)
  const free = options.filter(({ value }) => !s.fields.some(({ field }) => field === value))
  return (
    <>
      <Section title="Dots">
        {s.fields.map(({ field, colour }, i) => (
          <div key={i} className="flex items-center gap-1">
            <span className="w-24 shrink-0">
              <ColourField
                label={`Colour of ${prepared.fieldMeta(field).label}`}
                value={colour}
                onChange={(next) =>
                  change('Colour of dots', (d) => void (d.fields[i].colour = next), `colour ${i}`)
                }
              />
            </span>
            <Select
              label={`Field ${i + 1}`}
              value={field}
              options={options.filter(
                ({ value }) => value === field || free.some((one) => one.value === value),
              )}
              onChange={(next) => change('Dots of another field', (d) => void (d.fields[i].field = next))}
            />
            {s.fields.length > 1 && (
              <IconButton
                label={`No dots of ${prepared.fieldMeta(field).label}`}
                className="!size-6"
                onClick={() => change('One field less', (d) => void d.fields.splice(i, 1))}
              >
                <Trash2 size={13} />
              </IconButton>
            )}
          </div>
        ))}
        {free.length > 0 && s.fields.length < 8 && (
          <Button
            look="quiet"
            onClick={() =>
              change('One field more', (d) => {
                const colours = unordered.market.colours
                d.fields.push({ field: free[0].value, colour: colours[d.fields.length % colours.length] })
              })
            }
          >
            <Plus size={14} aria-hidden /> Another field in another colour
          </Button>
        )}
        <Row label="One dot for">
          <NumberField
            label="Value of a dot"
            value={s.each}
            min={1e-9}
            max={1e15}
            step={s.each / 10}
            decimals={3}
            onChange={(each) => change('Value of a dot', (d) => void (d.each = each), 'each')}
          />
        </Row>
        <Row label="Size">
          <NumberField
            label="Size of a dot"
            value={s.sizeMm}
            unit="mm"
            min={0.05}
            max={10}
            step={0.05}
            decimals={2}
            onChange={(mm) => change('Size of dots', (d) => void (d.sizeMm = mm), 'size')}
          />
        </Row>
        <MaskRows layer={layer} />
        <Button onClick={() => change('Other places', (d) => void (d.seed = (d.seed + 1) % 1_000_000))}>
          <Shuffle size={14} aria-hidden /> Other places
        </Button>
      </Section>
      <Figures layer={layer} plan={plan as DotPlan | null} prepared={prepared} />
    </>
  )
}

/** Areas that dots are kept in, or out of. */
function MaskRows({ layer }: Pick<SettingsProps, 'layer'>) {
  const { s, change } = editingOf('dots', layer)
  const areas = [...usePrepared()].filter(
    ([id, { dataset }]) => dataset.geometry.kind === 'areas' && id !== layer.datasetId,
  )
  if (!areas.length) return null
  return (
    <Row label={s.mask && !s.mask.within ? 'None in' : 'Only in'}>
      <Select
        label="Areas that dots are kept in or out of"
        value={s.mask?.datasetId ?? ''}
        options={[
          { value: '', label: 'anywhere in its area' },
          ...areas.map(([id, { entry }]) => ({ value: id, label: entry.name })),
        ]}
        onChange={(datasetId) =>
          change('Where dots lie', (d) => {
            d.mask = datasetId ? { datasetId, within: d.mask?.within ?? false } : null
          })
        }
      />
      {s.mask && (
        <Button
          look="quiet"
          onClick={() => change('In or out', (d) => d.mask && void (d.mask.within = !d.mask.within))}
        >
          {s.mask.within ? 'none in them' : 'only in them'}
        </Button>
      )}
    </Row>
  )
}

/** How many dots there are, where most of them lie, and what has none. */
function Figures({
  layer,
  plan,
  prepared,
}: {
  layer: SettingsProps['layer']
  plan: DotPlan | null
  prepared: Prepared
}) {
  const { s, change } = editingOf('dots', layer)
  const { maps } = useDocument()
  const map = maps.find(({ layers }) => layers.some(({ id }) => id === layer.id))
  const view = useFolio((state) => (map ? state.views[map.id] : undefined))
  const { remark } = useShapesSaid(layer)
  if (!plan) return null
  const closed = plan.densities && view ? closeness(plan.densities.high, { sizeMm: s.sizeMm, ...view }) : null
  const closing = closed === null ? s.each : closingValue(s.each, closed)
  const { dots, fullest, counts, missing, tooSmall } = plan
  const most = fullest < 0 ? 0 : counts.reduce((sum, own) => sum + own[fullest], 0)
  const lines = [
    `${dots.toLocaleString('en-GB')} dots in all`,
    ...(fullest < 0 ? [] : [`most in ${rowName(prepared, fullest)}: ${most.toLocaleString('en-GB')}`]),
    ...(missing ? [`${missing} without a value`] : []),
    ...(tooSmall ? [`${tooSmall} with less than a dot is worth`] : []),
  ]
  return (
    <div className="px-3 pb-2 text-xs text-muted">
      <ul aria-label="Figures of the dots">
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
        {closed !== null && (
          <li>
            the densest areas are {closed > 1 ? 'more than closed' : `${Math.round(100 * closed)} % closed`}{' '}
            at this scale
          </li>
        )}
      </ul>
      {remark && (
        <p className="text-caution" role="status">
          {remark}
        </p>
      )}
      {closing !== s.each && (
        <Button
          className="mt-1 !h-6 text-xs"
          title="The densest areas then just begin to close up"
          onClick={() => change('Value of a dot', (d) => void (d.each = closing))}
        >
          One dot for {eachWords(closing)}
        </Button>
      )}
    </div>
  )
}

export const dotsUi: KindUi = { Picker, Settings }
