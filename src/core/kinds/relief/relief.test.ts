import { describe, expect, it } from 'vitest'
import type { Dataset } from '@/core/data/dataset'
import { gradientsOf, slopeDeg } from '@/core/grid/relief/gradient'
import { paperTransform } from '@/core/map/view'
import { createProjection, type Projection } from '@/core/projection/projection'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import type { Raster as RasterNode } from '@/core/scene/scene'
import { createFontBook } from '@/core/scene/text'
import { relief } from '.'
import { sampler } from '../cells-on-paper/sample'
import { stopsByClasses } from './classed'
import { over } from './colours'
import { lightsOf } from './painter'
import { mistAt, readyTints, stopsOf, tinter } from './tints'

const [columns, rows] = [240, 160]
/** A raster in degrees from a corner, with cells of a hundredth of a degree, its heights by place. */
function rasterOf(
  west: number,
  north: number,
  z: (lon: number, lat: number) => number,
): NonNullable<Dataset['raster']> {
  const cell = 0.01
  const [east, south] = [west + columns * cell, north - rows * cell]
  return {
    crs: '',
    columns,
    rows,
    bands: 1,
    transform: Float64Array.of(west, cell, 0, north, 0, -cell),
    values: Float32Array.from({ length: columns * rows }, (_, i) =>
      z(west + ((i % columns) + 0.5) * cell, north - (Math.floor(i / columns) + 0.5) * cell),
    ),
    edge: Float64Array.of(west, north, east, north, east, south, west, south),
    fileSize: Uint32Array.of(columns, rows),
  }
}
const dataOf = (raster: NonNullable<Dataset['raster']>) => ({
  dataset: { rowCount: 1, fields: [], geometry: { kind: 'none' as const }, raster } satisfies Dataset,
  name: 'Heights',
  fieldMeta: () => ({ label: '', unit: '', role: 'total' as const }),
  datasetOf: () => null,
  datasetIds: [],
})
const window = { x: 0, y: 0, width: 90, height: 60 }
const contextOf = (dataset: Dataset, projection: Projection, own = window) => ({
  dataset,
  projection,
  projected: dataset.geometry,
  to: paperTransform(projection, { centre: [20, 70], scaleDenominator: 1_000_000 }, window),
  window: own,
  fonts: createFontBook(),
  toleranceMm: 0.1,
  datasetOf: () => null,
  featureName: String,
})
const specs: ProjectionSpec[] = [
  { id: 'mercator', centre: [20, 70], parallels: [0, 0] },
  { id: 'lambert-azimuthal-equal-area', centre: [20, 70], parallels: [0, 0], turnDeg: 30 },
  { id: 'equal-earth', centre: [20, 0], parallels: [0, 0] },
]

describe('heights on paper', () => {
  for (const spec of specs)
    it(`rise as they do on the ground far in the north, in ${spec.id}`, () => {
      // A hundred metres up for each hundredth of a degree to the north: 1,115.6 m on the ground at 70°.
      const raster = rasterOf(19, 70.8, (_, lat) => 10_000 * (lat - 69))
      const projection = createProjection(spec)
      const grid = { box: { x: 30, y: 20, width: 20, height: 20 }, cellMm: 0.5, columns: 40, rows: 40 }
      const context = contextOf(dataOf(raster).dataset, projection)
      const sample = sampler({ raster, band: 0, grid, context })({
        left: -2,
        top: -2,
        columns: 44,
        rows: 44,
      })
      const { right, up } = gradientsOf(sample, sample.steps)
      const wanted = (Math.atan(10_000 / 111_562) * 180) / Math.PI
      for (let i = 0; i < right.length; i += 97)
        if (!Number.isNaN(right[i]))
          expect(Math.abs(slopeDeg(right[i], up[i]) / wanted - 1)).toBeLessThan(2e-3)
      expect(right.filter((slope) => !Number.isNaN(slope)).length).toBeGreaterThan(1000)
    })

  it('are the same whether a window is drawn whole or in part', () => {
    const raster = rasterOf(19, 70.8, (lon, lat) => 300 * Math.sin(30 * lon) * Math.cos(50 * lat) + 400)
    const data = dataOf(raster)
    const projection = createProjection(specs[0])
    const settings = relief.initial(data)
    const plan = relief.plan(settings, data)
    const draw = (own: typeof window) =>
      relief.draw(plan, settings, contextOf(data.dataset, projection, own), null)[0] as RasterNode
    const inner = { x: 20, y: 12, width: 50, height: 40 }
    const whole = draw(inner)
    const cell = whole.box.width / whole.columns
    const part = draw({ x: inner.x + 64 * cell, y: inner.y + 32 * cell, width: 12, height: 12 })
    const [some, all] = [part.rgba(0, part.rows), whole.rgba(0, whole.rows)]
    let [worst, compared] = [0, 0]
    for (let r = 0; r < part.rows; r++)
      for (let c = 0; c < part.columns; c++)
        for (let k = 0; k < 4; k++) {
          const a = some[4 * (r * part.columns + c) + k]
          const b = all[4 * ((r + 32) * whole.columns + c + 64) + k]
          worst = Math.max(worst, Math.abs(a - b))
          compared++
        }
    expect(compared).toBeGreaterThan(4000)
    expect(worst).toBeLessThanOrEqual(2)
  })

  it('leave nothing where there are none', () => {
    const raster = rasterOf(19, 70.8, (lon) => (lon < 20 ? NaN : 100))
    const data = dataOf(raster)
    const projection = createProjection(specs[0])
    const settings = relief.initial(data)
    const [node] = relief.draw(
      relief.plan(settings, data),
      settings,
      contextOf(data.dataset, projection),
      null,
    ) as RasterNode[]
    const shown = node.rgba(0, node.rows).filter((_, i) => i % 4 === 3)
    expect(shown.some((opacity) => opacity === 0)).toBe(true)
    expect(shown.some((opacity) => opacity === 255)).toBe(true)
    expect(relief.plan({ ...settings, band: 3 }, data)).toBe(null)
    expect(relief.draw(null, settings, contextOf(data.dataset, projection), null)).toEqual([])
  })
})

describe('steps of tints', () => {
  it('lie at the ends of classes by a method, in the colours that there were', () => {
    // Heights from 0.5 to 239.5, as many of each.
    const slope = rasterOf(20, 70, (lon) => Math.floor((lon - 20) / 0.01) + 0.5)
    const before = [
      { at: 0, colour: '#000000', opacity: 1 },
      { at: 100, colour: '#ffffff', opacity: 0.5 },
    ]
    const wanted = { band: 0, method: 'quantile' as const, classes: 4 }
    const made = stopsByClasses(slope, wanted, before)!
    expect(made.map(({ at }) => Math.round(at / 10) * 10)).toEqual([0, 60, 120, 180])
    expect(made[0].at).toBeLessThanOrEqual(0.5)
    expect(made.map(({ colour }) => colour)).toEqual(['#000000', '#555555', '#aaaaaa', '#ffffff'])
    expect(made[1].opacity).toBeCloseTo(5 / 6, 6)
    expect(
      stopsByClasses(
        rasterOf(20, 70, () => NaN),
        wanted,
        before,
      ),
    ).toBeNull()
    expect(
      stopsByClasses(
        rasterOf(20, 70, () => 7),
        wanted,
        before,
      ),
    ).toHaveLength(1)
  })
})

describe('tints and mist', () => {
  const tints = {
    stops: [
      { at: 100, colour: '#ffffff', opacity: 1 },
      { at: 0, colour: '#000000', opacity: 0.5 },
    ],
    stepped: false,
    inView: false,
  }
  it('are mixed between their heights, in whatever order they stand, and hold beyond them', () => {
    const tint = tinter(tints)!
    expect(tint(50)).toEqual([127.5, 127.5, 127.5, 0.75])
    expect(tint(-10)).toEqual([0, 0, 0, 0.5])
    expect(tint(1e4)).toEqual([255, 255, 255, 1])
    expect(tinter({ ...tints, stepped: true, inView: false })!(99)).toEqual([0, 0, 0, 0.5])
    expect(tinter(null)).toBe(null)
    const stops = stopsOf(readyTints.Parchment, 0, 1000)
    expect(stops.map(({ at }) => at)).toEqual([0, 250, 500, 750, 1000])
  })
  it('lie over each other by their opacity', () => {
    expect(over([255, 0, 0, 1], [0, 0, 255, 0.5])).toEqual([127.5, 0, 127.5, 1])
    expect(over([255, 0, 0, 0], [0, 0, 255, 0.25])).toEqual([0, 0, 255, 0.25])
    expect(over([1, 2, 3, 0], [1, 2, 3, 0])).toEqual([0, 0, 0, 0])
    const mist = { colour: '#ffffff', opacity: 0.8, foot: 100, reach: 50 }
    expect([50, 100, 125, 150, 900].map((height) => mistAt(mist, height))).toEqual([0.8, 0.8, 0.4, 0, 0])
  })
  it('stand in the legend and the sentence; four lights stand about the one that was set', () => {
    const data = dataOf(rasterOf(19, 70.8, (_, lat) => 1000 * (lat - 69)))
    const settings = { ...relief.initial(data), tints: { ...tints, stepped: true, inView: false } }
    const { items, heading } = relief.legend(relief.plan(settings, data), settings, data, null)
    expect(heading).toBe('Heights (m)')
    expect(items.map(({ label }) => label)).toEqual(['0 to 100', '100 and over'])
    const words = relief
      .sentence(settings, data)
      .map(({ text }) => text)
      .join('')
    expect(words).toBe('Model heights by four lights about the north-west, tinted by height in steps.')
    expect(lightsOf({ lights: 'four', azimuthDeg: 315 }).map(({ azimuthDeg }) => azimuthDeg)).toEqual([
      225, 270, 315, 360,
    ])
  })
})
