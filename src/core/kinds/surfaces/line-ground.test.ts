import { describe, expect, it } from 'vitest'
import { geometryFromShapes } from '@/core/geo/shapes'
import { createProjection } from '@/core/projection/projection'
import { gridData } from '../cells-on-paper/testing'
import { byGround, groundAt } from './line-ground'
import type { LineGround } from './look'

const projection = createProjection({ id: 'mercator', centre: [0, 0], parallels: [0, 0] })
/** A degree is 10 mm wide on paper. */
const mmPerMetre = 10 / projection.project(1, 0)[0]
const to = { mmPerMetre, dx: 300, dy: 500, turn: 0 }
const paper = (lon: number, lat: number): [number, number] => {
  const [x, y] = projection.project(lon, lat)
  return [x * mmPerMetre + to.dx, y * mmPerMetre + to.dy]
}
const box = (west: number, south: number, east: number, north: number) => ({
  type: 'Polygon' as const,
  coordinates: [
    [
      [west, south],
      [east, south],
      [east, north],
      [west, north],
      [west, south],
    ],
  ],
})
const areas = (...shapes: ReturnType<typeof box>[]) => ({
  rowCount: shapes.length,
  fields: [],
  geometry: geometryFromShapes(shapes),
})
const sets = {
  rock: areas(box(-29, 48, -28, 50)),
  ice: areas(box(-28.5, 48, -27, 50)),
  cover: gridData(40, 20, (column) => (column < 20 ? 7 : 8)).dataset,
}
const context = { projection, to, datasetOf: (id: string) => sets[id as keyof typeof sets] ?? null }
const ground = (datasetId: string, colour: string, value: number | null = null): LineGround => ({
  ...{ datasetId, value, colour, label: '' },
})
const line = (...lons: number[]) => Float64Array.from(lons.flatMap((lon) => paper(lon, 49)))
const cut = (on: LineGround[], ...lines: Float64Array[]) => {
  const at = groundAt({ on } as never, context as never)
  if (!at) throw new Error('There is ground.')
  return byGround(lines, { colour: '#000000', on }, at).map(({ colour, pieces }) => [
    colour,
    pieces.map((piece) =>
      [piece[0], piece[piece.length - 2]].map((x) => Number(((x - 300) / 10).toFixed(2))),
    ),
  ])
}

describe('lines on other ground', () => {
  it('are cut where they cross its border, and come back to their own colour behind it', () => {
    expect(cut([ground('rock', '#777777')], line(-30, -27))).toEqual([['#000000', [[-30, -27]]]])
    expect(cut([ground('rock', '#777777')], line(-30, -28.4, -27))).toEqual([
      [
        '#000000',
        [
          [-30, -29],
          [-28, -27],
        ],
      ],
      ['#777777', [[-29, -28]]],
    ])
  })

  it('take the first of several grounds that hold a place', () => {
    const on = [ground('rock', '#777777'), ground('ice', '#4488cc')]
    expect(cut(on, line(-28.9, -28.2, -27.5))).toEqual([
      ['#777777', [[-28.9, -28]]],
      ['#4488cc', [[-28, -27.5]]],
    ])
  })

  it('go by the kinds of a raster as well', () => {
    expect(cut([ground('cover', '#226622', 8)], line(-29, -28.5, -27))).toEqual([
      ['#000000', [[-29, -28]]],
      ['#226622', [[-28, -27]]],
    ])
  })

  it('keep their whole length, whatever they cross', () => {
    const lons = Array.from({ length: 60 }, (_, i) => -30.3 + i * 0.07)
    const on = [ground('rock', '#777777'), ground('cover', '#226622', 8)]
    const pieces = cut(on, line(...lons)).flatMap(([, list]) => list as [number, number][])
    const length = pieces.reduce((sum, [from, end]) => sum + end - from, 0)
    expect(length).toBeCloseTo(lons[59] - lons[0], 1)
    expect(groundAt({ on: [ground('gone', '#777777')] } as never, context as never)).toBeNull()
  })
})
