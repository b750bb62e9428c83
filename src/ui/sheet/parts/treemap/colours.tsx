'use client'
import { methodIds, methods } from '@/core/classify/methods'
import { maxClasses, minClasses } from '@/core/classify/spec'
import type { Prepared } from '@/core/data/prepare'
import { choropleth } from '@/core/kinds/choropleth'
import { kindData } from '@/core/map/layer-plan'
import { mostColours, TileShade, type TreemapSettings } from '@/core/sheet/parts/treemap/spec'
import type { Tiles } from '@/core/sheet/parts/treemap/tiles'
import { Check, Row, Section, Segments, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import { SchemePicker } from '../../../map/colours/scheme-picker'
import { ColoursRow } from '../../../map/kinds/classing-picker'
import type { ChangeSettings } from '../../edit-sheet'
import { useFieldOptions } from '../dataset-row'

type Props = {
  s: TreemapSettings
  change: ChangeSettings<'treemap'>
  prepared: Prepared
  tiles: Tiles
}

/** Colours of tiles: by the names of a level, or by classes of a field. */
export function TileColours(props: Props) {
  const { s, change, prepared } = props
  const numbers = useFieldOptions(s.datasetId, 'number')
  const start = () => {
    const { field, ...first } = choropleth.initial(kindData(prepared))
    const other = numbers.find(({ value }) => value !== s.value)?.value ?? s.value
    return TileShade.parse({ ...first, field: field || other })
  }
  return (
    <Section
      title="Colours"
      aside={
        <Segments
          label="Colours by"
          value={s.shade ? 'classes' : 'names'}
          options={[
            { value: 'names', label: 'Names' },
            { value: 'classes', label: 'Classes' },
          ]}
          onChange={(by) =>
            change(`Colours by ${by}`, (d) => void (d.shade = by === 'classes' ? start() : null))
          }
        />
      }
    >
      {s.shade ? <Shades {...props} shade={s.shade} /> : <Names {...props} />}
    </Section>
  )
}

function Names({ s, change, prepared, tiles }: Props) {
  return (
    <>
      {s.levels.length > 1 && (
        <Row label="Of">
          <Select
            label="Level of the colours"
            value={String(Math.min(s.colourLevel, s.levels.length - 1))}
            options={s.levels.map(({ field }, i) => ({
              value: String(i),
              label: prepared.fieldMeta(field).label,
            }))}
            onChange={(level) => change('Level of the colours', (d) => void (d.colourLevel = Number(level)))}
          />
        </Row>
      )}
      {tiles.names.length > s.colours.length && (
        <p className="text-xs text-caution" role="status">
          {tiles.names.length} names share {s.colours.length} colours.
        </p>
      )}
      <div className="flex flex-wrap gap-1">
        {tiles.names.slice(0, mostColours).map((name, i) => (
          <span key={name} className="flex w-[88px]" title={name}>
            <ColourField
              label={`Colour of ${name}`}
              value={s.colours[i % s.colours.length]}
              onChange={(next) =>
                change(
                  'Colours',
                  (d) => {
                    const { length } = d.colours
                    while (d.colours.length <= i) d.colours.push(d.colours[d.colours.length % length])
                    d.colours[i] = next
                  },
                  `colour ${i}`,
                )
              }
            />
          </span>
        ))}
      </div>
    </>
  )
}

/** What shades the tiles, in how many classes, by which method and colours. */
function Shades({ s, change, prepared, tiles, shade }: Props & { shade: TileShade }) {
  const numbers = useFieldOptions(s.datasetId, 'number')
  const classes = tiles.shade?.plan.classification?.counts.length ?? shade.classes
  const set = (name: string, recipe: (draft: TileShade) => void, merge?: string) =>
    change(name, (d) => void (d.shade && recipe(d.shade)), merge)
  const summed = shade.per !== null || prepared.fieldMeta(shade.field).role === 'total'
  return (
    <>
      <Row label="Shaded by">
        <Select
          label="Field of the shades"
          value={shade.field}
          options={numbers}
          onChange={(field) => set('Field of the shades', (d) => void (d.field = field))}
        />
      </Row>
      <Row label="Divided by">
        <Select
          label="Shades divided by"
          value={shade.per ?? ''}
          options={[{ value: '', label: 'nothing' }, ...numbers.filter(({ value }) => value !== shade.field)]}
          onChange={(per) => set('Divide the shades', (d) => void (d.per = per || null))}
        />
        {shade.per !== null && (
          <NumberField
            label="Denominator counted in"
            value={shade.perCount}
            min={1}
            step={1}
            onChange={(n) => set('Denominator', (d) => void (d.perCount = n), 'per count')}
          />
        )}
      </Row>
      <Row label="Classes">
        <NumberField
          label="Classes of the tiles"
          value={shade.classes}
          min={minClasses}
          max={maxClasses}
          step={1}
          decimals={0}
          onChange={(n) => set('Classes', (d) => void (d.classes = Math.round(n)), 'classes')}
        />
        <Select
          label="Method of the classes"
          value={shade.method}
          options={methodIds.map((value) => ({ value, label: methods[value].label }))}
          onChange={(method) =>
            set(`Classes by ${methods[method].label}`, (d) => {
              // Breaks by hand begin where they were.
              if (method === 'manual') d.manualBreaks = [...(tiles.shade?.plan.classification?.breaks ?? [])]
              d.method = method
            })
          }
        />
      </Row>
      {shade.method === 'manual' ? (
        <Row label="Breaks">
          <div className="flex flex-wrap gap-1">
            {shade.manualBreaks.map((value, i) => (
              <span key={i} className="flex w-[88px]">
                <NumberField
                  label={`Break ${i + 1}`}
                  value={value}
                  onChange={(next) =>
                    set('Break', (d) => {
                      d.manualBreaks[i] = next
                      d.manualBreaks.sort((a, b) => a - b)
                    })
                  }
                />
              </span>
            ))}
          </div>
        </Row>
      ) : (
        <Check
          label="Rounded breaks"
          checked={shade.rounded}
          onChange={(on) => set('Rounded breaks', (d) => void (d.rounded = on))}
        />
      )}
      <ColoursRow colouring={shade} classes={classes}>
        <SchemePicker colouring={shade} count={classes} onChange={set} />
      </ColoursRow>
      {!summed && tiles.leaves.some(({ of }) => of.rows.length > 1) && (
        <p className="px-1 text-xs text-muted">
          A tile of several rows has their mean, weighted by {prepared.fieldMeta(s.value).label.toLowerCase()}
          .
        </p>
      )}
      {(tiles.shade?.plan.missingCount ?? 0) > 0 && (
        <p className="px-1 text-xs text-caution" role="status">
          {tiles.shade?.plan.missingCount} of {tiles.leaves.length} tiles have no value for a shade.
        </p>
      )}
    </>
  )
}
