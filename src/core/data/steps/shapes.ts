import { SaidError } from '@/core/said/said-error'
import { z } from 'zod'
import { bufferFeatures } from '@/core/geo/buffer'
import { clipAreas, simplifyShared } from '@/core/geo/cut'
import { featureCount, type Areas } from '@/core/geo/geometry'
import { bordersAsLines, gridOver, gridShapes, insidePoints, splitParts } from '@/core/geo/reshape'
import { geometryFromShapes } from '@/core/geo/shapes'
import { takeFeatures } from '@/core/geo/take-features'
import { numberColumn, takeRows, textAt, textColumn } from '../column'
import type { Dataset } from '../dataset'
import { keepRows } from './filter'
import { otherOf, ownOrigins, StepProblem, type Preparing, type StepKind } from './step'

const areasOf = ({ dataset }: Preparing): Areas => {
  if (dataset.geometry.kind !== 'areas') throw new StepProblem('This step takes areas.')
  return dataset.geometry
}
const isAreas = ({ dataset }: Preparing): boolean => dataset.geometry.kind === 'areas'

/** Rows whose shape became null are left out. */
function withShapes(from: Preparing, shapes: (GeoJSON.Geometry | null)[]): Preparing {
  const kept = Int32Array.from(shapes.flatMap((shape, i) => (shape ? [i] : [])))
  const geometry = geometryFromShapes(shapes.filter((shape) => shape !== null))
  return {
    ...from,
    dataset: { ...keepRows({ ...from.dataset, geometry: { kind: 'none' } }, kept), geometry },
  }
}

const GridSettings = z.object({
  shape: z.enum(gridShapes),
  sizeKm: z.number().positive(),
  keep: z.enum(['touching', 'clipped', 'all']),
})

/**
 * A grid in place of the areas: cells of one size on the ground, over the whole extent, where they touch the
 * areas, or cut to them.
 */
export const grid: StepKind<z.infer<typeof GridSettings>> = {
  label: 'Grid',
  about: 'shapes',
  settings: GridSettings,
  form: [
    {
      name: 'shape',
      label: 'Cells',
      control: 'choice',
      options: gridShapes.map((value) => ({ value, label: value })),
    },
    { name: 'sizeKm', label: 'Width', control: 'number', unit: 'km', min: 0.01, step: 1 },
    {
      name: 'keep',
      label: 'Keep',
      control: 'choice',
      options: [
        { value: 'touching', label: 'cells that touch the areas' },
        { value: 'clipped', label: 'cells cut to the areas' },
        { value: 'all', label: 'all cells of the extent' },
      ],
    },
  ],
  accepts: ({ dataset }) => dataset.geometry.kind !== 'none',
  initial: () => ({ shape: 'hexagons', sizeKm: 20, keep: 'touching' }),
  needs: () => [],
  words: ({ shape, sizeKm }) => `${shape} of ${sizeKm} km`,
  apply({ shape, sizeKm, keep }, from, _, { tell }) {
    const { cells } = asStep(() => gridOver(from.dataset.geometry, shape, sizeKm))
    let areas = cells
    if (keep !== 'all' && from.dataset.geometry.kind === 'areas') {
      const cut = clipAreas(cells, from.dataset.geometry, tell)
      areas =
        keep === 'clipped'
          ? (geometryFromShapes(cut.filter((shape) => shape !== null)) as Areas)
          : (takeFeatures(
              cells,
              [...cut.keys()].filter((i) => cut[i] !== null),
            ) as Areas)
    }
    const dataset: Dataset = {
      rowCount: featureCount(areas),
      fields: [
        { key: 'cell', column: numberColumn(Array.from({ length: featureCount(areas) }, (_, i) => i + 1)) },
      ],
      geometry: areas,
    }
    return {
      ...from,
      dataset,
      origins: ownOrigins(from.datasetId, dataset),
      made: new Map([['cell', { label: 'Cell', unit: '', role: 'code' }]]),
    }
  },
}

function asStep<T>(work: () => T): T {
  try {
    return work()
  } catch (error) {
    throw error instanceof SaidError ? new StepProblem(error.message) : error
  }
}

const None = z.record(z.string(), z.never())
const nothing = { settings: None, form: [], initial: () => ({}), needs: () => [] }

/** A point inside each area in place of its shape: never outside it, as a centroid may be. */
export const areasToPoints: StepKind<Record<string, never>> = {
  ...nothing,
  label: 'Areas to points',
  about: 'shapes',
  accepts: isAreas,
  words: () => 'a point inside each area',
  apply: (_, from) => ({ ...from, dataset: { ...from.dataset, geometry: insidePoints(areasOf(from)) } }),
}

const BordersSettings = z.object({ name: z.string(), coasts: z.boolean() })

/** Every border once, as a line, with the names of the areas on its two sides. */
export const areasToBorders: StepKind<z.infer<typeof BordersSettings>> = {
  label: 'Areas to borders',
  about: 'shapes',
  settings: BordersSettings,
  form: [
    { name: 'name', label: 'Sides named by', control: 'field', kind: 'any' },
    { name: 'coasts', label: 'Coasts as well', control: 'check' },
  ],
  accepts: isAreas,
  initial: ({ dataset }) => ({
    name: dataset.fields.find((f) => f.column.kind === 'text')?.key ?? dataset.fields[0]?.key ?? '',
    coasts: false,
  }),
  needs: () => [],
  words: ({ coasts }) => (coasts ? 'borders and coasts' : 'borders between areas'),
  apply({ name, coasts }, from) {
    const { lines, left, right } = bordersAsLines(areasOf(from), coasts)
    const column = from.dataset.fields.find((f) => f.key === name)?.column
    const names = (rows: Int32Array) =>
      textColumn(Array.from(rows, (row) => (row < 0 || !column ? null : textAt(column, row))))
    const dataset: Dataset = {
      rowCount: left.length,
      geometry: lines,
      fields: [
        { key: 'left', column: names(left) },
        { key: 'right', column: names(right) },
      ],
    }
    return {
      ...from,
      dataset,
      origins: ownOrigins(from.datasetId, dataset),
      made: new Map([
        ['left', { label: 'On one side', unit: '', role: 'name' }],
        ['right', { label: 'On the other', unit: '', role: 'name' }],
      ]),
    }
  },
}

const SimplifySettings = z.object({ percent: z.number().min(0).max(100) })

/** Fewer vertices; shared borders stay shared. */
export const simplify: StepKind<z.infer<typeof SimplifySettings>> = {
  label: 'Simplify',
  about: 'shapes',
  settings: SimplifySettings,
  form: [
    { name: 'percent', label: 'Vertices kept', control: 'number', unit: '%', min: 0, max: 100, step: 5 },
  ],
  accepts: ({ dataset }) => dataset.geometry.kind === 'areas' || dataset.geometry.kind === 'lines',
  initial: () => ({ percent: 25 }),
  needs: () => [],
  words: ({ percent }) => `to ${percent} % of the vertices`,
  apply({ percent }, from) {
    const { geometry } = from.dataset
    if (geometry.kind !== 'areas' && geometry.kind !== 'lines')
      throw new StepProblem('Only areas and lines can be simplified.')
    return { ...from, dataset: { ...from.dataset, geometry: simplifyShared(geometry, percent / 100) } }
  },
}

const ClipSettings = z.object({ datasetId: z.string() })

/** Only the parts of the areas that lie inside other areas. */
export const clip: StepKind<z.infer<typeof ClipSettings>> = {
  label: 'Clip',
  about: 'shapes',
  settings: ClipSettings,
  form: [{ name: 'datasetId', label: 'To the areas of', control: 'dataset', geometry: ['areas'] }],
  accepts: isAreas,
  initial: (_, others) => ({ datasetId: others.find(isAreas)?.datasetId ?? '' }),
  needs: ({ datasetId }) => [datasetId],
  words: ({ datasetId }, name) => `to ${name(datasetId)}`,
  apply: ({ datasetId }, from, others, { tell }) =>
    withShapes(from, clipAreas(areasOf(from), areasOf(otherOf(others, datasetId)), tell)),
}

const BufferSettings = z.object({ km: z.number().positive().max(2000) })

/** Everything within a distance of each feature, as areas. */
export const buffer: StepKind<z.infer<typeof BufferSettings>> = {
  label: 'Buffer',
  about: 'shapes',
  settings: BufferSettings,
  form: [{ name: 'km', label: 'Within', control: 'number', unit: 'km', min: 0.01, max: 2000, step: 1 }],
  accepts: ({ dataset }) => dataset.geometry.kind !== 'none',
  initial: () => ({ km: 10 }),
  needs: () => [],
  words: ({ km }) => `within ${km} km`,
  apply: ({ km }, from, _, { tell }) => ({
    ...from,
    dataset: { ...from.dataset, geometry: bufferFeatures(from.dataset.geometry, km, tell) },
  }),
}

const SplitSettings = z.object({ leastKm2: z.number().min(0) })

/** Parts of areas as rows of their own; parts under a size are dropped. */
export const splitOff: StepKind<z.infer<typeof SplitSettings>> = {
  label: 'Split off parts',
  about: 'shapes',
  settings: SplitSettings,
  form: [{ name: 'leastKm2', label: 'Drop under', control: 'number', unit: 'km²', min: 0, step: 1 }],
  accepts: isAreas,
  initial: () => ({ leastKm2: 0 }),
  needs: () => [],
  words: ({ leastKm2 }) => (leastKm2 ? `dropping those under ${leastKm2} km²` : 'each part a row'),
  apply({ leastKm2 }, from) {
    const { areas, rows } = splitParts(areasOf(from), leastKm2)
    return {
      ...from,
      dataset: {
        rowCount: rows.length,
        fields: from.dataset.fields.map(({ key, column }) => ({ key, column: takeRows(column, rows) })),
        geometry: areas,
      },
    }
  },
}
