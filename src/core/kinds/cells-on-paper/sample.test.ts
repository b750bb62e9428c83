import { describe, expect, it } from 'vitest'
import type { Raster } from '@/core/data/raster'
import { toMetres } from '@/core/geo/paper'
import { paperTransform } from '@/core/map/view'
import { createProjection } from '@/core/projection/projection'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import { gridOnPaper, paintedNode, type PaperGrid } from './grid'
import { sampler } from './sample'

const radians = Math.PI / 180
/** A field on the whole globe that goes on over the date line and the poles. */
const field = (lon: number, lat: number): number =>
  1000 * Math.cos(lat * radians) * Math.cos((lon - 40) * radians) + 300 * Math.sin(lat * radians)

/** The whole globe in degrees. */
function globe(perDegree: number, more: Partial<Raster> = {}): Raster {
  const [columns, rows] = [360 * perDegree, 180 * perDegree]
  const cell = 1 / perDegree
  return {
    crs: '',
    columns,
    rows,
    bands: 1,
    transform: Float64Array.of(-180, cell, 0, 90, 0, -cell),
    values: Float32Array.from({ length: columns * rows }, (_, i) =>
      field(-180 + ((i % columns) + 0.5) * cell, 90 - (Math.floor(i / columns) + 0.5) * cell),
    ),
    edge: Float64Array.of(-180, 90, 180, 90, 180, -90, -180, -90),
    fileSize: Uint32Array.of(columns, rows),
    ...more,
  }
}

const grid: PaperGrid = { box: { x: 0, y: 0, width: 60, height: 40 }, cellMm: 0.5, columns: 120, rows: 80 }
const viewOf = (spec: ProjectionSpec, centre: [number, number], scaleDenominator: number) => {
  const projection = createProjection(spec)
  return { projection, to: paperTransform(projection, { centre, scaleDenominator }, grid.box) }
}
const whole = { left: 0, top: 0, columns: grid.columns, rows: grid.rows }

/** How far samples are off the field, at most. */
function worst(
  raster: Raster,
  context: ReturnType<typeof viewOf>,
  between: 'lines' | 'curves' = 'lines',
): number {
  const { values } = sampler({ raster, band: 0, grid, context, between })(whole)
  let most = 0
  for (let i = 0; i < values.length; i++) {
    const [x, y] = [((i % grid.columns) + 0.5) * 0.5, (Math.floor(i / grid.columns) + 0.5) * 0.5]
    const at = context.projection.invert(...toMetres(context.to, x, y))
    if (at) most = Math.max(most, Math.abs(values[i] - field(at[0], at[1])))
    if (at) expect(values[i]).not.toBeNaN()
  }
  return most
}

describe('samples of a raster on paper', () => {
  const raster = globe(4)
  it('go on over the date line', () => {
    expect(
      worst(raster, viewOf({ id: 'equal-earth', centre: [180, 0], parallels: [0, 0] }, [179, 10], 3e7)),
    ).toBeLessThan(1)
  })
  it('are right about a pole', () => {
    const polar = { id: 'lambert-azimuthal-equal-area', centre: [0, 90], parallels: [0, 0] } as ProjectionSpec
    expect(worst(raster, viewOf(polar, [30, 88], 2e7))).toBeLessThan(2.5)
  })
  it('are the mean of what lies under them when cells are much smaller than those of the paper', () => {
    // Stripes of a cell each, which would flicker if cells were passed over.
    const stripes = globe(4)
    stripes.values = stripes.values.map((_, i) => (i % 2 ? 100 : 0))
    const context = viewOf({ id: 'equidistant-cylindrical', centre: [0, 0], parallels: [0, 0] }, [0, 0], 6e8)
    const { values } = sampler({ raster: stripes, band: 0, grid, context })({
      ...whole,
      left: 30,
      top: 20,
      columns: 60,
      rows: 40,
    })
    expect(Math.min(...values)).toBeGreaterThan(45)
    expect(Math.max(...values)).toBeLessThan(55)
  })
  it('lie on curves that have no bend at cells much larger than those of the paper', () => {
    const coarse = globe(1)
    const context = viewOf(
      { id: 'equidistant-cylindrical', centre: [0, 0], parallels: [0, 0] },
      [20, 40],
      4e6,
    )
    const bends = (between: 'lines' | 'curves'): number => {
      const { values } = sampler({ raster: coarse, band: 0, grid, context, between })(whole)
      let most = 0
      for (let i = 1; i < grid.columns - 1; i++) {
        const at = 40 * grid.columns + i
        most = Math.max(most, Math.abs(values[at - 1] - 2 * values[at] + values[at + 1]))
      }
      return most
    }
    expect(bends('curves')).toBeLessThan(bends('lines') / 3)
    expect(worst(coarse, context, 'curves')).toBeLessThan(0.5)
  })
  it('are the same in a block as in the whole, cell by cell', () => {
    const context = viewOf({ id: 'mercator', centre: [0, 0], parallels: [0, 0] }, [12, 60], 1e7)
    const taken = sampler({ raster, band: 0, grid, context, between: 'curves' })
    const all = taken(whole)
    const some = taken({ left: 37, top: 21, columns: 30, rows: 25 })
    for (let i = 0; i < some.values.length; i++) {
      const [c, r] = [37 + (i % 30), 21 + Math.floor(i / 30)]
      expect(Math.abs(some.values[i] - all.values[r * grid.columns + c])).toBeLessThan(1e-3)
    }
  })
  it('of the nearest cell are values that are there', () => {
    const context = viewOf({ id: 'mercator', centre: [0, 0], parallels: [0, 0] }, [12, 60], 1e7)
    const { values } = sampler({ raster, band: 0, grid, context, between: 'nearest' })(whole)
    const there = new Set(raster.values)
    expect([...values].every((value) => there.has(value))).toBe(true)
  })
})

describe('cells painted on paper', () => {
  it('are painted as they are asked for where they are many, and once where they are few', () => {
    const painted: [number, number][] = []
    const paint = (columns: number) => (from: number, to: number) => {
      painted.push([from, to])
      return new Uint8ClampedArray(4 * columns * (to - from)).fill(from)
    }
    const few = paintedNode(grid, paint(grid.columns))
    const many = paintedNode({ ...grid, columns: 4000, rows: 4000 }, paint(4000))
    if (few.type !== 'raster' || many.type !== 'raster') throw new Error('Both are cells.')
    expect(few.rgba(10, 20)).toHaveLength(4 * 120 * 10)
    few.rgba(0, 80)
    expect(painted).toEqual([[0, 80]])
    expect(many.rgba(7, 9)[0]).toBe(7)
    expect(painted[1]).toEqual([7, 9])
  })
  it('are as fine on a sheet of any size', () => {
    const context = viewOf({ id: 'mercator', centre: [0, 0], parallels: [0, 0] }, [0, 0], 3e7)
    const edge = Float64Array.of(-180, 80, 180, 80, 180, -80, -180, -80)
    const wall = { x: 0, y: 0, width: 1189, height: 841 }
    const grid = gridOnPaper(edge, { ...context, window: wall, toleranceMm: 0.02 })
    expect(grid?.cellMm).toBeCloseTo(25.4 / 300, 6)
    expect((grid?.columns ?? 0) * (grid?.rows ?? 0)).toBeGreaterThan(1e7)
  })
})
