import type { Prepared } from '@/core/data/prepare'
import { numberColumn, numbersOf } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { asidePaint, outsidePaint, plainAreaLook } from '@/core/kinds/area-drawing'
import { planChoropleth, type ChoroplethPlan } from '@/core/kinds/choropleth/plan'
import type { ChoroplethSettings } from '@/core/kinds/choropleth/spec'
import type { KindData } from '@/core/kinds/kind'
import { createMemory, identity } from '@/core/memory/memory'
import { solid, type Paint } from '@/core/scene/paint'
import type { Tree } from '@/core/treemap/layout'
import { leavesOf, namesOfLevel, treeOf, type NamedPart } from '@/core/treemap/tree'
import type { TileShade, TreemapSettings } from './spec'

/** The parts of a whole with what they are filled with. */
export type Tiles = {
  whole: Tree<NamedPart>[]
  leaves: Tree<NamedPart>[]
  total: number
  /** How many rows have no value above zero, and so no tile. */
  left: number
  /** The names of the level that gives the colours, in their order. */
  names: string[]
  /** What shades the tiles; null where colours are by name. */
  shade: { settings: ChoroplethSettings; data: KindData; plan: ChoroplethPlan } | null
  /** How one of the smallest parts is filled. */
  paintOf: (leaf: NamedPart) => Paint
}

const remember = createMemory<TreemapSettings, Tiles>('treemaps', { maxBytes: 16 * 2 ** 20 })

/** The tiles of a treemap, made once for its settings and data. */
export const tilesOf = (settings: TreemapSettings, prepared: Prepared): Tiles =>
  remember(settings, identity([prepared.dataset, prepared.entry]), () => makeTiles(settings, prepared))

function makeTiles(settings: TreemapSettings, prepared: Prepared): Tiles {
  const { whole, left } = treeOf(prepared.dataset, settings.levels, settings.value)
  const leaves = leavesOf(whole)
  const level = Math.min(settings.colourLevel, settings.levels.length - 1)
  const names = namesOfLevel(whole, level)
  const shade = settings.shade && shadeOf(settings.shade, { leaves, value: settings.value, prepared })
  const places = new Map(names.map((name, i) => [name, i]))
  const leafAt = new Map(leaves.map(({ of }, i) => [of, i]))
  const { colours } = settings
  return {
    whole,
    leaves,
    left,
    total: leaves.reduce((sum, { value }) => sum + value, 0),
    names,
    shade,
    paintOf: (leaf) =>
      shade
        ? shadePaint(shade.plan, shade.settings, leafAt.get(leaf) ?? -1)
        : solid(colours[(places.get(leaf.path[level]) ?? 0) % colours.length]),
  }
}

function shadePaint(plan: ChoroplethPlan, { missing, setAside }: ChoroplethSettings, tile: number): Paint {
  const index = plan.classOf[tile] ?? -1
  if (index >= 0) return solid(plan.colours[index])
  if (index === -2) return outsidePaint
  return asidePaint(index === -1 ? missing : setAside[-3 - index])
}

/** Tiles as rows of a dataset, each with what its own rows come to, in the classes of a choropleth. */
function shadeOf(
  shade: TileShade,
  { leaves, value, prepared }: { leaves: readonly Tree<NamedPart>[]; value: string; prepared: Prepared },
): NonNullable<Tiles['shade']> {
  const { dataset, fieldMeta } = prepared
  const columnOf = (key: string): Float64Array => {
    const column = fieldOf(dataset, key)
    return column?.kind === 'number' ? numbersOf(column) : new Float64Array(dataset.rowCount).fill(NaN)
  }
  const [top, bottom, weights] = [
    columnOf(shade.field),
    shade.per === null ? null : columnOf(shade.per),
    columnOf(value),
  ]
  const isSum = bottom !== null || fieldMeta(shade.field).role === 'total'
  const of = ({ of: { rows } }: Tree<NamedPart>, which: Float64Array): number | null => {
    const known = rows.filter((row) => Number.isFinite(top[row]) && (!bottom || Number.isFinite(bottom[row])))
    if (!known.length) return null
    if (isSum) return known.reduce((sum, row) => sum + which[row], 0)
    const weight = known.reduce((sum, row) => sum + weights[row], 0)
    return known.reduce((sum, row) => sum + which[row] * weights[row], 0) / weight
  }
  const rows: Dataset = {
    rowCount: leaves.length,
    geometry: { kind: 'none' },
    fields: [
      { key: shade.field, column: numberColumn(leaves.map((leaf) => of(leaf, top))) },
      ...(bottom && shade.per !== null && shade.per !== shade.field
        ? [{ key: shade.per, column: numberColumn(leaves.map((leaf) => of(leaf, bottom))) }]
        : []),
    ],
  }
  const settings: ChoroplethSettings = {
    ...shade,
    ...plainAreaLook(),
    missing: shade.missing,
    share: null,
    overYears: null,
    uncertainty: null,
  }
  const data: KindData = {
    dataset: rows,
    name: prepared.entry.name,
    fieldMeta,
    datasetOf: () => null,
    datasetIds: [],
  }
  return { settings, data, plan: planChoropleth(settings, data) }
}
