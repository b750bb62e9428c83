import { addressesOf, addressKey, runsOf, type Runs } from '@/core/cartogram/blocks/cells'
import {
  blockGeometry,
  judgeBlocks,
  layOutBlocks,
  noAreas,
  settleBlocks,
  type BlocksJudged,
  type Cells,
} from '@/core/cartogram/blocks/make'
import { blockShapesOf } from '@/core/cartogram/blocks/outlines'
import { gridFor, mostBodies, type Bodies } from '@/core/cartogram/blocks/layout'
import { middleOf } from '@/core/cartogram/block-grid'
import { planeAreas, type PlaneAreas } from '@/core/cartogram/plane'
import { ringsToDegrees } from '@/core/cartogram/to-degrees'
import { exactText } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import type { Areas, Geometry } from '@/core/geo/geometry'
import { geometryFromShapes } from '@/core/geo/shapes'
import { drain, within, type Steps } from '@/core/grid/steps'
import { createMemory } from '@/core/memory/memory'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import { createProjection, type Projection } from '@/core/projection/projection'
import type { KindData } from '../kind'
import type { BlocksPlan } from './plan'
import type { BlocksSettings } from './spec'

/** A block cartogram as it is drawn. */
export type BlocksShapes = {
  /** The rows, groups by their names, with the shapes of their blocks. */
  dataset: Dataset
  /** Lines between blocks of one body. */
  lines: Geometry
  /** Blocks of each part: feature `row * parts + part`; null without parts. */
  parts: Geometry | null
  /** Blocks by body. */
  cells: Cells
  judged: BlocksJudged
  drawnIn: number
  /** Areas, and their blocks, that the projection does not show. */
  unplaced: { areas: number; blocks: number }
  /** How many bodies with blocks there are where these are too many to be laid out; else 0. */
  tooMany: number
  /** Blocks of the folio whose owner is not there any more, and those that two owners would have. */
  lost: { names: string[]; blocks: number; twice: number }
} | null

/** The bodies of a plan on a map: what the projection does not show has no blocks. */
export function bodiesOn(plan: BlocksPlan, plane: PlaneAreas): Bodies {
  const seen = plan.bodies.map(({ rows }) => rows.some((row) => plane.areas[row] > 0))
  return {
    of: plan.bodyOf.map((body) => (body >= 0 && seen[body] ? body : -1)),
    blocks: Int32Array.from(plan.bodies, ({ blocks }, body) => (seen[body] ? blocks : 0)),
  }
}

const rememberLayout = createMemory<Dataset, Cells>('layouts of blocks', { maxBytes: 32 * 2 ** 20 })

/** Blocks where they find their places by themselves. How large they are does not matter for that. */
export function* foundPlaces(
  dataset: Dataset,
  bodies: Bodies,
  plane: PlaneAreas,
  { shape, seed, spec }: { shape: BlocksSettings['shape']; seed: number; spec: ProjectionSpec },
): Steps<Cells> {
  const key = JSON.stringify([shape, seed, spec, [...bodies.of], [...bodies.blocks]])
  const made = rememberLayout.has(dataset, key) ? null : yield* layOutBlocks(plane, bodies, shape, seed)
  return rememberLayout(dataset, key, () => made ?? drain(layOutBlocks(plane, bodies, shape, seed)))
}

/** Blocks as they stand in a folio, by body; what belongs to nobody is told. */
export function cellsFrom(
  hand: Record<string, Runs>,
  { bodies }: Pick<BlocksPlan, 'bodies'>,
): { cells: Cells; lost: NonNullable<BlocksShapes>['lost'] } {
  const known = new Map(bodies.map(({ name }, body) => [name, body]))
  const lost = { names: [] as string[], blocks: 0, twice: 0 }
  const taken = new Set<string>()
  const lists: number[][] = bodies.map(() => [])
  for (const [name, runs] of Object.entries(hand)) {
    const addresses = addressesOf(runs)
    const body = known.get(name)
    if (body === undefined) {
      if (addresses.length) lost.names.push(name)
      lost.blocks += addresses.length / 2
      continue
    }
    for (let k = 0; k < addresses.length; k += 2) {
      const key = addressKey(addresses[k], addresses[k + 1])
      if (taken.has(key)) lost.twice++
      else {
        taken.add(key)
        lists[body].push(addresses[k], addresses[k + 1])
      }
    }
  }
  return { cells: lists.map((list) => Int32Array.from(list)), lost }
}

/** Blocks as they stand in a folio. */
export const handOf = (cells: Cells, { bodies }: Pick<BlocksPlan, 'bodies'>): Record<string, Runs> =>
  Object.fromEntries(
    bodies.flatMap(({ name }, body) => (cells[body]?.length ? [[name, runsOf(cells[body])]] : [])),
  )

/** Blocks after those that lack some got them, and those that may move have moved; see `settleBlocks`. */
export function* settled(
  plan: BlocksPlan,
  settings: BlocksSettings,
  areas: Areas,
  spec: ProjectionSpec,
): Steps<Record<string, Runs>> {
  const plane = planeAreas(areas, createProjection(spec))
  const bodies = bodiesOn(plan, plane)
  const kept = new Set(settings.kept)
  const { cells } = cellsFrom(settings.hand ?? {}, plan)
  const made = yield* settleBlocks(plane, bodies, {
    shape: settings.shape,
    cells,
    fixed: Uint8Array.from(plan.bodies, ({ name }) => Number(kept.has(name))),
    seed: settings.seed,
  })
  return handOf(made, plan)
}

export function* makeBlocks(
  plan: BlocksPlan,
  settings: BlocksSettings,
  data: KindData,
  spec: ProjectionSpec,
): Steps<BlocksShapes> {
  const { dataset } = data
  if (dataset.geometry.kind !== 'areas') return null
  const projection = createProjection(spec)
  if (plan.bodies.filter(({ blocks }) => blocks > 0).length > mostBodies) return nothingMade(plan, data)
  const plane = planeAreas(dataset.geometry, projection)
  const bodies = bodiesOn(plan, plane)
  yield 0.02
  const { shape, seed, sideM, hand } = settings
  const { cells, lost } = hand
    ? cellsFrom(hand, plan)
    : {
        cells: yield* within(foundPlaces(dataset, bodies, plane, { shape, seed, spec }), 0.02, 0.9),
        lost: { names: [], blocks: 0, twice: 0 },
      }
  const byRow: Int32Array[] = Array.from({ length: dataset.rowCount }, () => new Int32Array(0))
  plan.bodies.forEach(({ row }, body) => (byRow[row] = cells[body]))
  const { geometry, lines, drawnIn } = yield* within(
    blockGeometry(plane, byRow, { shape, sideM }, projection),
    0.9,
    0.95,
  )
  const judged = yield* within(judgeBlocks(plane, bodies, shape, cells), 0.95, 0.99)
  const hidden = plan.bodies.filter((body, i) => body.blocks > 0 && !bodies.blocks[i])
  return {
    dataset: { ...dataset, geometry, fields: withGroupNames(plan, data) },
    lines,
    parts: plan.partBlocks && partGeometry(plan, settings, { plane, cells, projection }),
    cells,
    judged,
    drawnIn,
    unplaced: {
      areas: hidden.reduce((n, { rows }) => n + rows.length, 0),
      blocks: hidden.reduce((n, { blocks }) => n + blocks, 0),
    },
    tooMany: 0,
    lost,
  }
}

/** Without any blocks, where bodies are too many. */
const nothingMade = (plan: BlocksPlan, { dataset }: KindData): BlocksShapes => ({
  dataset: { ...dataset, geometry: noAreas(dataset.rowCount) },
  lines: { kind: 'none' },
  parts: null,
  cells: plan.bodies.map(() => new Int32Array(0)),
  judged: {
    has: 0,
    wanted: 0,
    wrong: [],
    torn: [],
    pairs: 0,
    touching: 0,
    overWater: 0,
    likeness: 0,
    shift: 0,
    turnedDeg: 0,
  },
  drawnIn: 0,
  unplaced: { areas: 0, blocks: 0 },
  tooMany: plan.bodies.filter(({ blocks }) => blocks > 0).length,
  lost: { names: [], blocks: 0, twice: 0 },
})

/** The fields of the rows, with the names of groups in place of the names and codes of their largest members. */
function withGroupNames({ bodies }: BlocksPlan, { dataset, fieldMeta }: KindData): Dataset['fields'] {
  const groups = new Map(bodies.flatMap(({ row, rows, name }) => (rows.length > 1 ? [[row, name]] : [])))
  if (!groups.size) return dataset.fields
  const ofRole = (wanted: string) => dataset.fields.find(({ key }) => fieldMeta(key).role === wanted)?.key
  const naming = ofRole('name') ?? ofRole('code')
  return dataset.fields.map((field) => {
    const { column } = field
    const { role } = fieldMeta(field.key)
    if (column.kind !== 'text' || (role !== 'name' && role !== 'code')) return field
    const words = Array.from(column.codes, (code, row) => {
      const group = groups.get(row)
      // A group has a name, but no code.
      if (group !== undefined) return field.key === naming ? group : null
      return code ? column.dictionary[code - 1] : null
    })
    return { ...field, column: exactText(words) }
  })
}

/** The blocks of each part of each body, from the top and from the left. */
function partGeometry(
  plan: BlocksPlan,
  { shape, sideM, parts }: BlocksSettings,
  { plane, cells, projection }: { plane: PlaneAreas; cells: Cells; projection: Projection },
): Geometry {
  const grid = gridFor(plane, shape, sideM)
  const lists: number[][] = Array.from({ length: plan.bodyOf.length * parts.length }, () => [])
  plan.bodies.forEach(({ row }, body) => {
    const shares = plan.partBlocks?.[body]
    if (!shares) return
    const addresses = Array.from({ length: cells[body].length / 2 }, (_, k): [number, number] => [
      cells[body][2 * k],
      cells[body][2 * k + 1],
    ]).sort((a, b) => a[1] - b[1] || middleOf(grid, ...a)[0] - middleOf(grid, ...b)[0])
    let [part, left] = [0, shares[0]]
    for (const address of addresses) {
      while (part + 1 < parts.length && left <= 0) left = shares[++part]
      lists[row * parts.length + part].push(...address)
      left--
    }
  })
  const draw = ringsToDegrees(projection)
  return geometryFromShapes(
    blockShapesOf(lists, grid, (places, centre) => draw.ring({ places, centre })),
    true,
  )
}
