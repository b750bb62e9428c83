import type { Geometry as Shape, GeometryCollection } from 'geojson'
import type { Areas, Geometry, Lines } from '@/core/geo/geometry'
import { ringRange } from '@/core/geo/geometry'
import { collapsedAreas } from '@/core/geo/collapsed'
import { GatheredShapes } from '@/core/geo/shapes'
import type { ShapeNote } from '@/core/data/reading'
import { ColumnCount } from './columns'
import { withIds, type FeatureId } from './feature-ids'
import { repairShape } from './repair'

export type Plain = Exclude<Shape, GeometryCollection>
export type Properties = Record<string, unknown>

const sorts = ['areas', 'lines', 'points'] as const
export type Sort = (typeof sorts)[number]
const endings: Record<Sort, RegExp> = { areas: /Polygon$/, lines: /LineString$/, points: /Point$/ }
const sortOf = (shape: Plain): Sort => sorts.find((sort) => endings[sort].test(shape.type)) as Sort

/** What was gathered of one sort: shapes, the number among all rows of each, and what is to be said of them. */
type OfSort = { shapes: GatheredShapes; rows: number[]; notes: ShapeNote[]; effort: { crossings: number } }

/** The rows of one dataset; `sort` is null where none has a shape. */
export type Part = { sort: Sort | null; properties: Properties[]; geometry: Geometry; notes: ShapeNote[] }

/**
 * Rows of a file as they come, shapes in degrees: mended, told apart by their sort and kept as bare numbers, so that a
 * file never has to stand in memory feature by feature as a whole.
 */
export class GatheredRows {
  private readonly all: { properties: Properties }[] = []
  private readonly ids: FeatureId[] = []
  private readonly shapeless: number[] = []
  private readonly ofSort = new Map<Sort, OfSort>()
  private readonly columns = new ColumnCount()

  /** How many rows were added. */
  get count(): number {
    return this.all.length
  }

  /** The next row; its shape may be let go afterwards. */
  add(shape: Plain | null, properties: Properties, id: FeatureId): void {
    this.columns.add(properties)
    const row = this.all.length
    this.all.push({ properties })
    this.ids.push(id)
    if (!shape) {
      this.shapeless.push(row)
      return
    }
    const sort = sortOf(shape)
    let one = this.ofSort.get(sort)
    if (!one)
      this.ofSort.set(
        sort,
        (one = { shapes: new GatheredShapes(), rows: [], notes: [], effort: { crossings: 0 } }),
      )
    one.rows.push(row)
    const added = one.shapes.add(repairShape(shape, row, one.notes, one.effort))
    if (added === 'refused')
      one.notes.push({
        row,
        what: 'was left as the file cuts it, since put together it would not be as large',
        at: null,
      })
  }

  /** A dataset for each sort of shapes; rows without one are in the first. One without geometry where none has any. */
  bySort(): Part[] {
    const rows = withIds(this.all, this.ids)
    const found = sorts.flatMap((sort) => {
      const one = this.ofSort.get(sort)
      return one ? [{ sort, ...one }] : []
    })
    if (!found.length)
      return [
        {
          sort: null,
          properties: rows.map(({ properties }) => properties),
          geometry: { kind: 'none' },
          notes: [],
        },
      ]
    return found.map(({ sort, shapes, rows: own, notes }, k): Part => {
      const shapeless = k === 0 ? this.shapeless : []
      const kept = shapeless.length ? [...own, ...shapeless].sort((a, b) => a - b) : own
      const numberOf = new Map(kept.map((row, number) => [row, number]))
      const numbered = (row: number): number => numberOf.get(row) as number
      const geometry = spread(shapes.geometry(), own.map(numbered), kept.length)
      const said = [
        ...notes,
        ...shapeless.map((row): ShapeNote => ({ row, what: 'has no shape', at: null })),
      ].map((note) => ({ ...note, row: numbered(note.row) }))
      return {
        sort,
        properties: kept.map((row) => rows[row].properties),
        geometry,
        notes: [...said.sort((a, b) => a.row - b.row), ...noExtentIn(geometry), ...copiesIn(geometry)],
      }
    })
  }
}

/** A geometry with its features in other rows, of which the rest have no shape. */
function spread(geometry: Geometry, rows: number[], rowCount: number): Geometry {
  if (geometry.kind === 'none' || rows.length === rowCount) return geometry
  const featureStarts = new Uint32Array(rowCount + 1)
  rows.forEach((row, f) => (featureStarts[row + 1] = geometry.featureStarts[f + 1]))
  for (let row = 0; row < rowCount; row++)
    if (featureStarts[row + 1] < featureStarts[row]) featureStarts[row + 1] = featureStarts[row]
  return { ...geometry, featureStarts }
}

/** Rows of areas that cover nothing: their rings have collapsed to a line or a place. */
export const noExtentIn = (geometry: Geometry): ShapeNote[] =>
  geometry.kind === 'areas'
    ? collapsedAreas(geometry).map((row): ShapeNote => ({ row, what: 'has no extent', at: null }))
    : []

/** Rows of areas or lines that run along the same arcs as one before. */
function copiesIn(geometry: Geometry): ShapeNote[] {
  if (geometry.kind !== 'areas' && geometry.kind !== 'lines') return []
  const seen = new Set<string>()
  const notes: ShapeNote[] = []
  for (let row = 0; row + 1 < geometry.featureStarts.length; row++) {
    if (geometry.featureStarts[row] === geometry.featureStarts[row + 1]) continue
    const key = arcsOf(geometry, row)
    if (seen.has(key)) notes.push({ row, what: 'is a copy of another row', at: null })
    else seen.add(key)
  }
  return notes
}

/** The arcs of each ring or path of a feature. */
function arcsOf(geometry: Areas | Lines, feature: number): string {
  const [from, to] = ringRange(geometry, feature)
  let key = ''
  for (let r = from; r < to; r++)
    key += `${geometry.refs.subarray(geometry.ringStarts[r], geometry.ringStarts[r + 1]).join()};`
  return key
}
