'use client'
import type { Category, CategoryPlan } from '@/core/kinds/categories/plan'
import type { CategorySettings, Own } from '@/core/kinds/categories/spec'
import { plainShapes, shapeWords } from '@/core/kinds/marks/shapes'
import { Check, Row, Section, Segments, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList, Popover } from '../../kit/popover'
import { TextField } from '../../kit/text-field'
import { AreaLookSections, MissingRows } from './area-look'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { SetList } from './set-list'

function Picker({ control, layer, prepared, close }: PickerProps) {
  const { s, change } = editingOf('categories', layer)
  if (control === 'field') {
    const fields = prepared.dataset.fields
      .filter(({ column }) => column.kind !== 'number')
      .map(({ key }) => ({
        value: key,
        label: prepared.fieldMeta(key).label,
        note: prepared.fieldMeta(key).role,
      }))
    return (
      <ChoiceList
        value={s.field}
        options={fields}
        onPick={(field) => {
          change(`Show by ${prepared.fieldMeta(field).label}`, (d) => Object.assign(d, { field, own: {} }))
          close()
        }}
      />
    )
  }
  if (control === 'colours')
    return (
      <SetList value={s.set} onPick={(id, label) => change(`Colour ${label}`, (d) => void (d.set = id))} />
    )
  return null
}

const plainOwn: Own = { colour: null, hatchDeg: null, pattern: 'lines', with: null, label: null, shape: null }
const hatches = [
  { value: '', label: 'flat' },
  { value: '45', label: 'rising lines' },
  { value: '-45', label: 'falling lines' },
  { value: '0', label: 'level lines' },
  { value: '90', label: 'upright lines' },
  { value: 'crossed 45', label: 'crossed lines' },
  { value: 'crossed 0', label: 'a grid' },
  { value: 'dots 0', label: 'dots' },
]

function Settings({ layer, prepared, plan: made }: SettingsProps) {
  const { s, change } = editingOf('categories', layer)
  const plan = made as CategoryPlan
  const { kind } = prepared.dataset.geometry
  const own = (key: string, part: Partial<Own>, merge?: string) =>
    change(`Change ${key}`, (d) => void (d.own[key] = { ...plainOwn, ...d.own[key], ...part }), merge)
  return (
    <>
      <Section
        title="Categories"
        aside={<span className="text-xs text-muted">{plan.categories.length}</span>}
      >
        <Row label="Order">
          <div className="flex-1">
            <Segments
              label="Order of categories"
              value={s.order}
              options={[
                { value: 'count', label: 'Commonest' },
                { value: 'alphabet', label: 'Alphabet' },
              ]}
              onChange={(order) => change('Order of categories', (d) => void (d.order = order))}
            />
          </div>
        </Row>
        {kind === 'areas' && (
          <Row label="Colours">
            <Select
              label="How colours are given"
              value={s.assign}
              options={[
                { value: 'order', label: 'in order' },
                { value: 'neighbours', label: 'neighbours differ' },
              ]}
              onChange={(assign) => change('How colours are given', (d) => void (d.assign = assign))}
            />
          </Row>
        )}
        <Row label="Group under">
          <NumberField
            label="Categories with fewer features are grouped"
            value={s.fewest}
            min={0}
            step={1}
            decimals={0}
            onChange={(n) =>
              change('Group rare categories', (d) => void (d.fewest = Math.round(n)), 'fewest')
            }
          />
          <TextField
            label="Name of the grouped categories"
            value={s.other.label}
            onChange={(label) =>
              label.trim() && change('Name of the others', (d) => void (d.other.label = label.trim()))
            }
          />
        </Row>
        <ul className="flex flex-col gap-1">
          {plan.categories.slice(0, 40).map((category) => (
            <li key={category.key} className="flex items-center gap-1.5">
              <ColourField
                label={`Colour of ${category.label}`}
                value={category.colour}
                onChange={(colour) =>
                  category.key.startsWith('\u0000')
                    ? change('Colour of the others', (d) => void (d.other.colour = colour), 'other')
                    : own(category.key, { colour }, `colour ${category.key}`)
                }
              />
              <span className="w-28 truncate text-xs" title={category.values.join(', ')}>
                {category.label} <span className="text-muted">{category.count}</span>
              </span>
              {!category.key.startsWith('\u0000') && (
                <More category={category} s={s} all={plan.categories} kind={kind} own={own} />
              )}
            </li>
          ))}
        </ul>
        {kind === 'areas' && <MissingRows look={s} onChange={change} />}
        {kind === 'lines' && (
          <Row label="Width">
            <NumberField
              label="Width of lines"
              value={s.lineWidthPt}
              unit="pt"
              min={0.05}
              max={40}
              step={0.1}
              onChange={(w) => change('Width of lines', (d) => void (d.lineWidthPt = w), 'line width')}
            />
          </Row>
        )}
        {kind === 'points' && (
          <Row label="Symbol">
            <Select
              label="Shape of symbols"
              value={s.dot.shape}
              options={plainShapes
                .filter((shape) => shape !== 'bar')
                .map((value) => ({ value, label: shapeWords[value] }))}
              onChange={(shape) => change('Shape of symbols', (d) => void (d.dot.shape = shape))}
            />
            <NumberField
              label="Size of symbols"
              value={s.dot.sizeMm}
              unit="mm"
              min={0.2}
              max={50}
              step={0.2}
              onChange={(mm) => change('Size of symbols', (d) => void (d.dot.sizeMm = mm), 'dot size')}
            />
          </Row>
        )}
        {kind === 'points' && (
          <Row label="">
            <Check
              label="A shape for each"
              checked={s.dot.varied}
              onChange={(varied) =>
                change(
                  varied ? 'A shape for each category' : 'One shape',
                  (d) => void (d.dot.varied = varied),
                )
              }
            />
          </Row>
        )}
      </Section>
      {kind === 'areas' && <AreaLookSections look={s} prepared={prepared} onChange={change} />}
    </>
  )
}

function fillOf(own: Own | undefined): string {
  if (own?.hatchDeg === undefined || own.hatchDeg === null) return ''
  return own.pattern === 'lines' ? String(own.hatchDeg) : `${own.pattern} ${own.hatchDeg}`
}

function ownFill(fill: string): Partial<Own> {
  const [, pattern = 'lines', deg = ''] = /^(crossed|dots)? ?(-?\d*)$/.exec(fill) ?? []
  return { hatchDeg: deg === '' ? null : Number(deg), pattern: pattern as Own['pattern'] }
}

/** Name, lines and company of one category. */
function More({
  category,
  s,
  all,
  kind,
  own,
}: {
  category: Category
  s: CategorySettings
  all: Category[]
  kind: string
  own: (key: string, part: Partial<Own>) => void
}) {
  const { key } = category
  return (
    <Popover
      label={`More of ${category.label}`}
      align="end"
      className="w-64"
      trigger={
        <button
          type="button"
          aria-label={`More of ${category.label}`}
          className="size-6 shrink-0 rounded hover:bg-base-200"
        >
          ⋯
        </button>
      }
    >
      <Row label="Called">
        <TextField
          label={`Name of ${key}`}
          value={category.label}
          onChange={(label) =>
            own(key, { label: label.trim() && label.trim() !== key ? label.trim() : null })
          }
        />
      </Row>
      {kind === 'points' && (
        <Row label="Shape">
          <Select
            label={`Shape of ${key}`}
            value={s.own[key]?.shape ?? ''}
            options={[
              { value: '', label: 'as all' },
              ...plainShapes
                .filter((shape) => shape !== 'bar')
                .map((value) => ({ value, label: shapeWords[value] })),
            ]}
            onChange={(shape) => own(key, { shape: shape === '' ? null : shape })}
          />
        </Row>
      )}
      {kind === 'areas' && (
        <Row label="Filled">
          <Select
            label={`Fill of ${key}`}
            value={fillOf(s.own[key])}
            options={hatches}
            onChange={(fill) => own(key, ownFill(fill))}
          />
        </Row>
      )}
      <Row label="Shown with">
        <Select
          label={`${key} is shown with`}
          value=""
          options={[
            { value: '', label: 'nothing else' },
            ...all
              .filter((other) => other.key !== key && !other.key.startsWith('\u0000'))
              .map((other) => ({ value: other.key, label: other.label })),
          ]}
          onChange={(other) => other && own(key, { with: other })}
        />
      </Row>
      {category.values
        .filter((value) => value !== key)
        .map((value) => (
          <Row key={value} label={value}>
            <button
              type="button"
              className="text-xs text-primary underline"
              onClick={() => own(value, { with: null })}
            >
              show by itself again
            </button>
          </Row>
        ))}
    </Popover>
  )
}

export const categoriesUi: KindUi = { Picker, Settings }
