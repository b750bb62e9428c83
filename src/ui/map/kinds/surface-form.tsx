'use client'
import type { Draft } from 'immer'
import { numberWord } from '@/core/classify/labels'
import type { Prepared } from '@/core/data/prepare'
import { surfaceForms, type SurfaceForm, type SurfaceLook } from '@/core/kinds/surfaces/look'
import type { SurfacePlan } from '@/core/kinds/surfaces/plan'
import type { Layer } from '@/core/map/spec'
import { Check, Row, Section, Segments, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { usePrepared } from '../../shell/contents'
import { SchemePicker } from '../colours/scheme-picker'
import { classingPicker, ColoursRow } from './classing-picker'
import type { PickerProps } from './kind-ui'
import { LineGrounds } from './line-grounds'
import { PeakSection } from './peak-section'
import { PencilSection } from './pencil-section'

export const formLabels: Record<SurfaceForm, string> = {
  bands: 'classes',
  lines: 'lines',
  tint: 'tint',
  shaded: 'lit lines',
}

type Props = {
  look: SurfaceLook
  plan: SurfacePlan | null
  /** What limits the doubt of this kind of surface, such as points within the bandwidth; null where it has none. */
  doubt: { label: string; unit: string; first: number } | null
  onChange: (name: string, recipe: (look: Draft<SurfaceLook>) => void, merge?: string) => void
}

/** What opens under the words of a sentence that all surfaces share; null for others. */
export function surfacePicker(props: PickerProps, { look, onChange }: Pick<Props, 'look' | 'onChange'>) {
  const { control, close } = props
  const plan = props.plan as SurfacePlan | null
  if (control === 'shape')
    return (
      <ChoiceList
        value={look.form}
        options={surfaceForms.map((value) => ({ value, label: formLabels[value] }))}
        onPick={(form) => {
          onChange(`Shown as ${formLabels[form]}`, (d) => void (d.form = form))
          close()
        }}
      />
    )
  if (control === 'colours')
    return <SchemePicker colouring={look} count={plan?.colours.length ?? look.classes} onChange={onChange} />
  return classingPicker(props, look, { result: plan?.classification })
}

/** How a surface is shown: form and colours, lines and the light on them, what is left out, what is doubtful. */
export function SurfaceSections({ look, plan, doubt, onChange, layer }: Props & { layer: Layer }) {
  const lined = look.lined || look.form === 'lines'
  return (
    <>
      <Section title="Shown as">
        <Segments
          label="Shown as"
          value={look.form}
          options={surfaceForms.map((value) => ({ value, label: formLabels[value] }))}
          onChange={(form) => onChange(`Shown as ${formLabels[form]}`, (d) => void (d.form = form))}
        />
        {look.form !== 'lines' && (
          <ColoursRow colouring={look} classes={look.classes}>
            <SchemePicker colouring={look} count={look.classes} onChange={onChange} />
          </ColoursRow>
        )}
        {(look.form === 'bands' || look.form === 'tint') && (
          <Check
            label="Lines over it"
            checked={look.lined}
            onChange={(on) =>
              onChange(on ? 'Lines over the surface' : 'No lines', (d) => void (d.lined = on))
            }
          />
        )}
        <Row label="Not under">
          <NumberField
            label="Lowest value that is shown"
            value={look.least ?? plan?.least ?? 0}
            decimals={4}
            onChange={(n) => onChange('Lowest value shown', (d) => void (d.least = n), 'least')}
          />
          {look.least !== null && (
            <button
              type="button"
              className="link text-xs"
              onClick={() => onChange('Lowest value by rule', (d) => void (d.least = null))}
            >
              by rule
            </button>
          )}
        </Row>
        <Row label="Only in">
          <MaskSelect look={look} layer={layer} onChange={onChange} />
        </Row>
        <Row label="Smoothness">
          <Select
            label="Smoothness of lines"
            value={String(look.smooth)}
            options={[
              { value: '1', label: 'as the cells' },
              { value: '2', label: 'twice as fine' },
              { value: '4', label: 'four times as fine' },
            ]}
            onChange={(n) => onChange('Smoothness', (d) => void (d.smooth = Number(n) as 1 | 2 | 4))}
          />
        </Row>
      </Section>
      {(lined || look.form === 'shaded') && <LineSection look={look} plan={plan} onChange={onChange} />}
      {lined && look.form !== 'shaded' && <LineGrounds look={look} onChange={onChange} />}
      {look.form === 'shaded' && <LightSection look={look} onChange={onChange} />}
      {look.form === 'bands' && <PencilSection pencil={look.pencil} onChange={onChange} />}
      <PeakSection peaks={look.peaks} layer={layer} />
      {doubt && <DoubtSection look={look} doubt={doubt} onChange={onChange} />}
      <Remarks plan={plan} />
    </>
  )
}

function MaskSelect({ look, layer, onChange }: Pick<Props, 'look' | 'onChange'> & { layer: Layer }) {
  const areas = [...usePrepared()].filter(
    ([id, { dataset }]: [string, Prepared]) => dataset.geometry.kind === 'areas' && id !== layer.datasetId,
  )
  return (
    <Select
      label="Areas that the surface is kept within"
      value={look.mask?.datasetId ?? ''}
      options={[
        { value: '', label: 'anywhere' },
        ...areas.map(([id, { entry }]) => ({ value: id, label: entry.name })),
      ]}
      onChange={(datasetId) =>
        onChange('Where the surface is shown', (d) => void (d.mask = datasetId ? { datasetId } : null))
      }
    />
  )
}

/** Where lines run, how heavy they are, and their numbers. */
function LineSection({ look, plan, onChange }: Pick<Props, 'look' | 'plan' | 'onChange'>) {
  const { lines, interval } = look
  const span = plan ? plan.max - plan.min : 10
  const proposed = Number((span / 10 || 1).toPrecision(1))
  return (
    <Section title="Lines">
      <Row label="At">
        <Select
          label="Where lines run"
          value={interval === null ? 'breaks' : 'interval'}
          options={[
            { value: 'breaks', label: 'the ends of classes' },
            { value: 'interval', label: 'every' },
          ]}
          onChange={(at) =>
            onChange('Where lines run', (d) => void (d.interval = at === 'breaks' ? null : proposed))
          }
        />
        {interval !== null && (
          <NumberField
            label="Distance between lines"
            value={interval}
            min={1e-9}
            step={interval / 10}
            decimals={4}
            onChange={(n) => onChange('Distance between lines', (d) => void (d.interval = n), 'interval')}
          />
        )}
      </Row>
      {look.form !== 'shaded' && (
        <>
          <Row label="Line">
            <ColourField
              label="Colour of lines"
              value={lines.colour}
              onChange={(colour) =>
                onChange('Colour of lines', (d) => void (d.lines.colour = colour), 'line colour')
              }
            />
            <NumberField
              label="Width of lines"
              value={lines.widthPt}
              unit="pt"
              min={0}
              max={10}
              step={0.05}
              onChange={(w) => onChange('Width of lines', (d) => void (d.lines.widthPt = w), 'line width')}
            />
          </Row>
          <Row label="Heavier">
            <Select
              label="Which lines are heavier"
              value={String(lines.indexEvery)}
              options={['0', '2', '4', '5', '10'].map((value) => ({
                value,
                label:
                  value === '0'
                    ? 'none'
                    : `every ${numberWord(Number(value))}th`
                        .replace('twoth', 'second')
                        .replace('fiveth', 'fifth'),
              }))}
              onChange={(n) => onChange('Heavier lines', (d) => void (d.lines.indexEvery = Number(n)))}
            />
            {lines.indexEvery > 0 && (
              <NumberField
                label="Width of heavier lines"
                value={lines.indexWidthPt}
                unit="pt"
                min={0}
                max={10}
                step={0.1}
                onChange={(w) =>
                  onChange('Heavier lines', (d) => void (d.lines.indexWidthPt = w), 'index width')
                }
              />
            )}
          </Row>
          <Row label="Numbers">
            <Select
              label="Numbers on lines"
              value={lines.numbered}
              options={[
                { value: 'none', label: 'none' },
                { value: 'index', label: 'on heavier ones' },
                { value: 'all', label: 'on all' },
              ]}
              onChange={(which) => onChange('Numbers on lines', (d) => void (d.lines.numbered = which))}
            />
            {lines.numbered !== 'none' && (
              <NumberField
                label="Size of numbers"
                value={lines.numberPt}
                unit="pt"
                min={3}
                max={40}
                step={0.5}
                onChange={(pt) =>
                  onChange('Size of numbers', (d) => void (d.lines.numberPt = pt), 'number size')
                }
              />
            )}
          </Row>
          {lines.numbered !== 'none' && (
            <>
              <Row label="Apart">
                <NumberField
                  label="Distance between numbers of a line"
                  value={lines.apartMm}
                  unit="mm"
                  min={5}
                  max={500}
                  step={5}
                  onChange={(mm) =>
                    onChange('Distance of numbers', (d) => void (d.lines.apartMm = mm), 'apart')
                  }
                />
              </Row>
              <Check
                label="Read uphill"
                checked={lines.uphill}
                onChange={(on) =>
                  onChange(on ? 'Numbers read uphill' : 'Numbers upright', (d) => void (d.lines.uphill = on))
                }
              />
            </>
          )}
        </>
      )}
    </Section>
  )
}

function LightSection({ look: { light }, onChange }: Pick<Props, 'look' | 'onChange'>) {
  return (
    <Section title="Light">
      <Row label="From">
        <NumberField
          label="Where the light comes from"
          value={light.fromDeg}
          unit="°"
          min={0}
          max={360}
          step={5}
          decimals={0}
          onChange={(deg) => onChange('Direction of the light', (d) => void (d.light.fromDeg = deg), 'light')}
        />
        <NumberField
          label="Widest line"
          value={light.widestPt}
          unit="pt"
          min={0.1}
          max={20}
          step={0.1}
          onChange={(pt) => onChange('Widest lit line', (d) => void (d.light.widestPt = pt), 'widest')}
        />
      </Row>
      <Row label="Lit, shaded">
        <ColourField
          label="Colour of lit lines"
          value={light.lit}
          onChange={(colour) => onChange('Colour of lit lines', (d) => void (d.light.lit = colour), 'lit')}
        />
        <ColourField
          label="Colour of shaded lines"
          value={light.shaded}
          onChange={(colour) =>
            onChange('Colour of shaded lines', (d) => void (d.light.shaded = colour), 'shade')
          }
        />
      </Row>
    </Section>
  )
}

function DoubtSection({
  look: { uncertain },
  doubt,
  onChange,
}: Pick<Props, 'look' | 'onChange'> & { doubt: NonNullable<Props['doubt']> }) {
  return (
    <Section
      title="Doubtful ground"
      aside={
        <Check
          label="Shown"
          checked={uncertain !== null}
          onChange={(on) =>
            onChange(
              on ? 'Show what is doubtful' : 'Hide what is doubtful',
              (d) => void (d.uncertain = on ? { limit: doubt.first, show: 'hatch' } : null),
            )
          }
        />
      }
    >
      {uncertain && (
        <Row label={doubt.label}>
          <NumberField
            label={doubt.label}
            value={uncertain.limit}
            unit={doubt.unit}
            min={0}
            step={1}
            onChange={(n) =>
              onChange('Limit of doubt', (d) => d.uncertain && void (d.uncertain.limit = n), 'doubt')
            }
          />
          <Select
            label="Doubt shown by"
            value={uncertain.show}
            options={[
              { value: 'hatch', label: 'hatching' },
              { value: 'fade', label: 'fading' },
            ]}
            onChange={(show) =>
              onChange('How doubt is shown', (d) => d.uncertain && void (d.uncertain.show = show))
            }
          />
        </Row>
      )}
    </Section>
  )
}

/** Figures of the surface, what was left out, and the ground in each class. */
function Remarks({ plan }: Pick<Props, 'plan'>) {
  if (!plan) return null
  return (
    <div className="px-3 pb-2 text-xs text-muted">
      <ul aria-label="Figures of the surface">
        {plan.figures.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {plan.remark && (
        <p className="text-caution" role="status">
          {plan.remark}
        </p>
      )}
    </div>
  )
}
