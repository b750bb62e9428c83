import { numberColumn, numbersOf, textAt } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { extentOf } from '@/core/geo/extent'
import { featureAt } from '@/core/geo/feature-at'
import { geometryFromShapes } from '@/core/geo/shapes'
import { boundsIn, placesIn, planeFor } from '@/core/grid/grid'
import { cellAt, cellPolygons, middleOfCell, type CellId, type Tiling } from '@/core/grid/cells'
import { drain, type Steps } from '@/core/grid/steps'
import { createMemory, numberOf } from '@/core/memory/memory'
import { createProjection } from '@/core/projection/projection'
import type { KindData } from '../kind'
import { pointWeights } from '@/core/data/point-weights'
import type { CellSettings } from './spec'

/** Cells with what lies in them. */
export type Gathered = {
  tiling: Tiling
  /** The cells as areas with the fields `value` and `points`. */
  dataset: Dataset
  cells: CellId[]
  /** For each cell the features in it, the one that gives most to its value first, at most `mostNamed`. */
  members: Int32Array[]
  /** For each cell the share of its sum that its first member gives, 0 to 1; NaN for figures without a sum. */
  firstShare: Float64Array
  /** Points that have no value, and those that the plane does not show. */
  missing: number
  unplaced: number
}

export const mostNamed = 5
/** The key of the figure in the cells' own table. */
export const valueField = 'value'
/** More cells than this hold up everything and cannot be told apart. */
export const mostGathered = 200_000

const remember = createMemory<Dataset, Gathered | null>('points gathered in cells', {
  maxBytes: 96 * 2 ** 20,
})

type Data = Pick<KindData, 'dataset' | 'datasetOf'>

/** What of the settings decides what lies in which cell. */
export const gatherKey = ({
  figure,
  field,
  weight,
  shareOf,
  shape,
  spacingKm,
  empty,
}: CellSettings): string => JSON.stringify([figure, field, weight, shareOf, shape, spacingKm, empty])

const groundOf = ({ empty }: CellSettings, { datasetOf }: Data): Dataset | null =>
  empty && datasetOf(empty.datasetId)

function keyOf(settings: CellSettings, data: Data): string {
  const ground = groundOf(settings, data)
  return `${gatherKey(settings)} ${ground ? numberOf(ground) : ''}`
}

/** Points gathered in cells, once for the same rows and what matters of the settings. */
export const gathered = (settings: CellSettings, data: Data): Gathered | null =>
  remember(data.dataset, keyOf(settings, data), () =>
    drain(gather(settings, data.dataset, groundOf(settings, data))),
  )

/** The same in pieces; null where it is at hand. */
export function gatherSteps(settings: CellSettings, data: Data): Steps<void> | null {
  const key = keyOf(settings, data)
  if (remember.has(data.dataset, key)) return null
  return (function* () {
    const made = yield* gather(settings, data.dataset, groundOf(settings, data))
    remember(data.dataset, key, () => made)
  })()
}

/** After so many points it is told how far the work is. */
const every = 8192

function* gather(settings: CellSettings, dataset: Dataset, ground: Dataset | null): Steps<Gathered | null> {
  const { geometry } = dataset
  const extent = extentOf([geometry])
  if (geometry.kind !== 'points' || !extent) return null
  const tiling: Tiling = {
    plane: planeFor(extent),
    shape: settings.shape,
    spacing: settings.spacingKm * 1000,
  }
  const { lonLat, features } = pointWeights(dataset, null)
  const places = placesIn(tiling.plane, lonLat)
  const values = valuesFor(settings, dataset)
  const weights = settings.figure === 'weighted mean' ? numbersIn(dataset, settings.weight) : null
  const perFeature = new Int32Array(dataset.rowCount)
  for (const f of features) perFeature[f]++
  const cells = new Map<string, { id: CellId; at: number[] }>()
  let [missing, unplaced] = [0, 0]
  for (let i = 0; i < features.length; i++) {
    if (i % every === every - 1) yield (0.7 * i) / features.length
    const f = features[i]
    if (Number.isNaN(places[2 * i])) {
      unplaced++
      continue
    }
    if (Number.isNaN(values[f]) || (weights && !(weights[f] >= 0))) {
      missing++
      continue
    }
    const id = cellAt(tiling, places[2 * i], places[2 * i + 1])
    const key = `${id[0]} ${id[1]}`
    const known = cells.get(key)
    if (known) known.at.push(i)
    else cells.set(key, { id, at: [i] })
  }
  const filled = [...cells.values()].sort((a, b) => a.id[1] - b.id[1] || a.id[0] - b.id[0])
  const bare = ground ? bareCells(tiling, ground, new Set(cells.keys())) : []
  const ids = [...filled.map(({ id }) => id), ...bare]
  // A value of a feature with several points is shared by them, where it is added up.
  const part = (i: number) => values[features[i]] / perFeature[features[i]]
  const figureOf = (at: number[]): number => {
    const own = at.map((i) => values[features[i]])
    switch (settings.figure) {
      case 'count':
        return at.length
      case 'sum':
        return at.reduce((sum, i) => sum + part(i), 0)
      case 'mean':
        return own.reduce((sum, value) => sum + value, 0) / own.length
      case 'share':
        return (100 * own.reduce((sum, value) => sum + value, 0)) / own.length
      case 'median':
        return medianOf(own)
      case 'weighted mean': {
        const all = at.reduce((sum, i) => sum + (weights?.[features[i]] ?? 0), 0)
        return at.reduce((sum, i) => sum + (weights?.[features[i]] ?? 0) * values[features[i]], 0) / all
      }
    }
  }
  const zero = settings.figure === 'count' || settings.figure === 'sum' ? 0 : NaN
  const figures = [...filled.map(({ at }) => figureOf(at)), ...bare.map(() => zero)]
  const sums = settings.figure === 'count' || settings.figure === 'sum'
  const ranked = filled.map(({ at }) =>
    [...at].sort((a, b) => Math.abs(part(b)) - Math.abs(part(a)) || a - b),
  )
  return {
    tiling,
    cells: ids,
    members: ids.map((_, c) =>
      Int32Array.from(new Set((ranked[c] ?? []).slice(0, 4 * mostNamed).map((i) => features[i]))).slice(
        0,
        mostNamed,
      ),
    ),
    firstShare: Float64Array.from(ids, (_, c) =>
      sums && ranked[c]?.length && figures[c] ? part(ranked[c][0]) / figures[c] : NaN,
    ),
    missing,
    unplaced,
    dataset: {
      rowCount: ids.length,
      fields: [
        {
          key: valueField,
          column: numberColumn(figures.map((value) => (Number.isNaN(value) ? null : value))),
        },
        { key: 'points', column: numberColumn(ids.map((_, c) => filled[c]?.at.length ?? 0)) },
      ],
      geometry: geometryFromShapes(cellPolygons(tiling, ids), true),
    },
  }
}

const numbersIn = (dataset: Dataset, field: string | null): Float64Array => {
  const column = field === null ? null : fieldOf(dataset, field)
  return column ? numbersOf(column) : new Float64Array(dataset.rowCount).fill(NaN)
}

/** For each feature what the figure is reckoned from; for shares 1 or 0. */
function valuesFor({ figure, field, shareOf }: CellSettings, dataset: Dataset): Float64Array {
  if (figure === 'count') return new Float64Array(dataset.rowCount).fill(1)
  if (figure !== 'share') return numbersIn(dataset, field)
  const column = field === null ? null : fieldOf(dataset, field)
  return Float64Array.from({ length: dataset.rowCount }, (_, f) => {
    const text = column ? textAt(column, f) : null
    return text === null ? NaN : Number(text === shareOf)
  })
}

function medianOf(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  const half = sorted.length >> 1
  return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2
}

/** Cells without points whose middle lies in some areas. */
function bareCells(tiling: Tiling, { geometry }: Dataset, taken: Set<string>): CellId[] {
  if (geometry.kind !== 'areas') return []
  const [x0, y0, x1, y1] = boundsIn(tiling.plane, [geometry])
  if (!(x1 > x0)) return []
  const { invert } = createProjection(tiling.plane)
  const found: CellId[] = []
  const seen = new Set(taken)
  // Steps of half a cell meet every cell.
  const step = tiling.spacing / 2.5
  if (((x1 - x0) / step) * ((y1 - y0) / step) > 4e6) return []
  for (let y = y0; y <= y1; y += step)
    for (let x = x0; x <= x1; x += step) {
      const id = cellAt(tiling, x, y)
      const key = `${id[0]} ${id[1]}`
      if (seen.has(key)) continue
      seen.add(key)
      const place = invert(...middleOfCell(tiling, id))
      if (place && featureAt(geometry, place[0], place[1]) >= 0) found.push(id)
    }
  return found
}
