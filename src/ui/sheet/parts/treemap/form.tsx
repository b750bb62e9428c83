'use client'
import { Heading, Plus, Trash2 } from 'lucide-react'
import { treemapProblem } from '@/core/sheet/parts/treemap/draw'
import { tilesOf } from '@/core/sheet/parts/treemap/tiles'
import { mostColours, mostLevels, mostNames } from '@/core/sheet/parts/treemap/spec'
import { treemapLayoutIds, treemapLayouts } from '@/core/treemap/layout'
import { namesOfLevel, partOrderIds, partOrders, treeOf, type Level } from '@/core/treemap/tree'
import { Button, Check, IconButton, Row, Section, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import { OrderList } from '../../../kit/order-list'
import { TextField } from '../../../kit/text-field'
import { usePrepared } from '../../../shell/contents'
import { settingsChanger } from '../../edit-sheet'
import { DatasetRow, useFieldOptions } from '../dataset-row'
import type { FormProps } from '../face'
import { LetteringFold } from '../lettering-fold'
import { TileColours } from './colours'
import { StripFold } from './strip'

/** What is divided into what, and how it looks. */
export function TreemapForm({ sheet, part }: FormProps<'treemap'>) {
  const s = part.settings
  const change = settingsChanger(sheet.id, part)
  const datasets = usePrepared()
  const numbers = useFieldOptions(s.datasetId, 'number')
  const all = useFieldOptions(s.datasetId, 'all')
  const prepared = datasets.get(s.datasetId)
  const problem = treemapProblem(s, prepared)
  const tree = prepared && !problem ? tilesOf(s, prepared) : null
  /** Parts in another order; they keep their colours. */
  const reorder = (level: number, { order, names }: Pick<Level, 'order' | 'names'>) => {
    const levels = s.levels.map((one, i) =>
      i === level ? { ...one, order, names: names.slice(0, mostNames) } : one,
    )
    const before = new Map(tree?.names.map((name, i) => [name, s.colours[i % s.colours.length]]))
    const whole = prepared && !problem ? treeOf(prepared.dataset, levels, s.value).whole : []
    const after = namesOfLevel(whole, Math.min(s.colourLevel, levels.length - 1))
    change('Order of parts', (d) => {
      d.levels = levels
      if (level <= s.colourLevel && after.length)
        d.colours = after.slice(0, mostColours).map((name) => before.get(name) ?? s.colours[0])
    })
  }
  return (
    <>
      <Section title="Treemap">
        <DatasetRow
          datasetId={s.datasetId}
          onChange={(datasetId) =>
            change('Treemap of another dataset', (d) => {
              const fields = datasets.get(datasetId)?.dataset.fields ?? []
              const first = fields.find(({ column }) => column.kind === 'text') ?? fields[0]
              d.datasetId = datasetId
              d.value = fields.find(({ column }) => column.kind === 'number')?.key ?? ''
              d.levels = [{ field: first?.key ?? '', order: 'size', names: [], lineMm: 0.25, heading: true }]
              d.shade = null
              d.strip = null
            })
          }
        />
        <Row label="Areas by">
          <Select
            label="Field of the areas"
            value={s.value}
            options={numbers}
            onChange={(key) => change('Field of the areas', (d) => void (d.value = key))}
          />
        </Row>
        {s.levels.map(({ field, order, lineMm, heading }, i) => (
          <div key={i} className="flex flex-col gap-1">
            <Row label={i === 0 ? 'Divided by' : 'Then by'}>
              <Select
                label={`Field of level ${i + 1}`}
                value={field}
                options={all}
                onChange={(key) =>
                  change('Divided by', (d) => {
                    d.levels[i].field = key
                    d.levels[i].names = []
                  })
                }
              />
              <IconButton
                label={`Remove level ${i + 1}`}
                disabled={s.levels.length < 2}
                onClick={() => change('Remove a level', (d) => void d.levels.splice(i, 1))}
              >
                <Trash2 size={14} />
              </IconButton>
            </Row>
            <div className="flex items-center gap-1 pl-3">
              <Select
                label={`Order of level ${i + 1}`}
                value={order}
                options={partOrderIds.map((value) => ({ value, label: partOrders[value] }))}
                // By hand they begin as they lay.
                onChange={(next) =>
                  reorder(i, {
                    order: next,
                    names: next === 'hand' && tree ? namesOfLevel(tree.whole, i) : [],
                  })
                }
              />
              <span className="w-[84px] shrink-0">
                <NumberField
                  label={`Line of level ${i + 1}`}
                  value={lineMm}
                  unit="mm"
                  min={0}
                  max={10}
                  step={0.05}
                  onChange={(mm) => change('Line', (d) => void (d.levels[i].lineMm = mm), `line ${i}`)}
                />
              </span>
              {i < s.levels.length - 1 && (
                <IconButton
                  label={heading ? `Level ${i + 1} without headings` : `Level ${i + 1} with headings`}
                  active={heading}
                  onClick={() => change('Headings', (d) => void (d.levels[i].heading = !heading))}
                >
                  <Heading size={14} />
                </IconButton>
              )}
            </div>
            {order === 'hand' && tree && (
              <OrderList
                label={`Parts of level ${i + 1} in their order`}
                names={namesOfLevel(tree.whole, i)}
                onChange={(names) => reorder(i, { order, names })}
              />
            )}
          </div>
        ))}
        {s.levels.length < mostLevels && (
          <Button
            look="quiet"
            onClick={() =>
              change('Add a level', (d) => {
                const free = all.find(({ value }) => !d.levels.some(({ field }) => field === value))
                if (free)
                  d.levels.push({ field: free.value, order: 'size', names: [], lineMm: 0.25, heading: true })
              })
            }
          >
            <Plus size={14} aria-hidden /> Level
          </Button>
        )}
        <Row label="Laid out">
          <Select
            label="Layout of the treemap"
            value={s.layout}
            options={treemapLayoutIds.map((value) => ({ value, label: treemapLayouts[value] }))}
            onChange={(layout) => change('Layout', (d) => void (d.layout = layout))}
          />
        </Row>
        {s.layout === 'squares' && s.levels.some(({ order }) => order !== 'size') && (
          <p className="text-xs text-caution" role="status">
            Squares always go by size. Slices and strips keep another order.
          </p>
        )}
        {problem && <p className="text-xs text-error">{problem}</p>}
        {tree && tree.left > 0 && (
          <p className="text-xs text-caution" role="status">
            {tree.left === 1
              ? '1 row without a value above zero has'
              : `${tree.left.toLocaleString('en-GB')} rows without a value above zero have`}{' '}
            no tile.
          </p>
        )}
      </Section>
      {prepared && tree && <TileColours s={s} change={change} prepared={prepared} tiles={tree} />}
      <Section title="Look">
        <Row label="Title">
          <TextField
            label="Title of the treemap"
            value={s.title}
            onChange={(title) => change('Title of the treemap', (d) => void (d.title = title))}
          />
        </Row>
        <Check
          label="Figures under names"
          checked={s.values}
          onChange={(on) => change('Figures', (d) => void (d.values = on))}
        />
        <Row label="Lines">
          <ColourField
            label="Colour of lines"
            value={s.lineColour}
            onChange={(colour) =>
              change('Colour of lines', (d) => void (d.lineColour = colour), 'line colour')
            }
          />
        </Row>
      </Section>
      {tree && <StripFold s={s} change={change} tiles={tree} />}
      <LetteringFold
        rows={{ heading: 'Title and headings', label: 'Smallest parts' }}
        styles={s}
        onChange={(key, next, merge) => change('Type', (d) => void Object.assign(d[key], next), merge)}
      />
    </>
  )
}
