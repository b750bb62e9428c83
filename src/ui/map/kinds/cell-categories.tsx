'use client'
import { unordered } from '@/core/colour/schemes'
import { formatNumber } from '@/core/classify/labels'
import type { CellCategory, CellCategoryPlan } from '@/core/kinds/cell-categories/plan'
import type { Own } from '@/core/kinds/cell-categories/spec'
import { Button, Check, Row, Section, Segments, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { Popover } from '../../kit/popover'
import { TextField } from '../../kit/text-field'
import { ValueSection, WithoutValueRows } from './band-rows'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { SetList } from './set-list'

const inFile = 'as in the file'

function Sets({ layer, prepared, close }: Pick<PickerProps, 'layer' | 'prepared' | 'close'>) {
  const { s, change } = editingOf('cell-categories', layer)
  const pick = (set: string | null, label: string): void => {
    change(`Colour ${label}`, (d) => void (d.set = set))
    close()
  }
  return (
    <>
      {prepared.dataset.raster?.palette && (
        <Button look="quiet" aria-pressed={s.set === null} onClick={() => pick(null, inFile)}>
          As in the file
        </Button>
      )}
      <SetList value={s.set} onPick={pick} />
    </>
  )
}

function Picker({ control, layer, prepared, close }: PickerProps) {
  return control === 'colours' ? <Sets layer={layer} prepared={prepared} close={close} /> : null
}

const plainOwn: Own = { colour: null, label: null, with: null, shown: true }

function Settings({ layer, prepared, plan: made }: SettingsProps) {
  const { s, change } = editingOf('cell-categories', layer)
  const plan = made as CellCategoryPlan | null
  const categories = plan?.categories ?? []
  const own = (key: string, part: Partial<Own>, merge?: string) =>
    change(`Change ${key}`, (d) => void (d.own[key] = { ...plainOwn, ...d.own[key], ...part }), merge)
  return (
    <>
      <ValueSection s={s} prepared={prepared} onChange={change} />
      <Section title="Kinds" aside={<span className="text-xs text-muted">{categories.length}</span>}>
        <Row label="Order">
          <Segments
            label="Order of kinds"
            value={s.order}
            options={[
              { value: 'value', label: 'By value' },
              { value: 'ground', label: 'By ground' },
            ]}
            onChange={(order) => change('Order of kinds', (d) => void (d.order = order))}
          />
        </Row>
        <Row label="Colours">
          <Popover
            label="Colours of kinds"
            align="end"
            trigger={
              <button type="button" className="control w-full truncate text-left">
                {s.set === null ? inFile : (unordered[s.set]?.label ?? s.set)}
              </button>
            }
          >
            <Sets layer={layer} prepared={prepared} close={() => undefined} />
          </Popover>
        </Row>
        <ul className="flex flex-col gap-1" aria-label="Kinds of ground">
          {categories.map((category) => (
            <li key={category.key} className="flex items-center gap-1.5">
              <ColourField
                label={`Colour of ${category.label}`}
                value={category.colour}
                onChange={(colour) => own(category.key, { colour }, `colour ${category.key}`)}
              />
              <span
                className={`min-w-0 flex-1 truncate text-xs ${category.shown ? '' : 'text-muted line-through'}`}
                title={`${category.values.join(', ')}: ${category.cells.toLocaleString('en-GB')} cells`}
              >
                {category.label}
              </span>
              <span className="shrink-0 text-xs text-muted">
                {formatNumber(category.km2, category.km2 < 10 ? 1 : 0)} km²
              </span>
              <More category={category} all={categories} own={own} />
            </li>
          ))}
        </ul>
        <WithoutValueRows missing={s.missing} onChange={change} />
      </Section>
    </>
  )
}

/** Name and company of one kind, and whether it is shown. */
function More({
  category,
  all,
  own,
}: {
  category: CellCategory
  all: CellCategory[]
  own: (key: string, part: Partial<Own>) => void
}) {
  const { key, label, shown, values } = category
  return (
    <Popover
      label={`More of ${label}`}
      align="end"
      className="w-64"
      trigger={
        <button
          type="button"
          aria-label={`More of ${label}`}
          className="size-6 shrink-0 rounded hover:bg-base-200"
        >
          ⋯
        </button>
      }
    >
      <Row label="Called">
        <TextField
          label={`Name of ${key}`}
          value={label}
          onChange={(next) => own(key, { label: next.trim() && next.trim() !== key ? next.trim() : null })}
        />
      </Row>
      <Row label="">
        <Check label="Shown" checked={shown} onChange={(next) => own(key, { shown: next })} />
      </Row>
      <Row label="Shown with">
        <Select
          label={`${key} is shown with`}
          value=""
          options={[
            { value: '', label: 'nothing else' },
            ...all
              .filter((other) => other.key !== key)
              .map((other) => ({ value: other.key, label: other.label })),
          ]}
          onChange={(other) => other && own(key, { with: other })}
        />
      </Row>
      {values
        .filter((value) => String(value) !== key)
        .map((value) => (
          <Row key={value} label={String(value)}>
            <button
              type="button"
              className="text-xs text-primary underline"
              onClick={() => own(String(value), { with: null })}
            >
              show by itself again
            </button>
          </Row>
        ))}
    </Popover>
  )
}

export const cellCategoriesUi: KindUi = { Picker, Settings }
