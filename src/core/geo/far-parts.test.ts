import type { MultiPolygon, Position } from 'geojson'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { extentOf } from './extent'
import { farPartsOf, mainPartOf } from './far-parts'
import type { Areas } from './geometry'
import { groundAreas } from './measure'
import { geometryFromShapes } from './shapes'

const square = (x: number, y: number, size: number): Position[][] => [
  [
    [x, y],
    [x + size, y],
    [x + size, y + size],
    [x, y + size],
    [x, y],
  ],
]
const land = (...features: Position[][][][]): Areas =>
  geometryFromShapes(
    features.map((coordinates): MultiPolygon => ({ type: 'MultiPolygon', coordinates })),
  ) as Areas
const block = (x: number, y: number): Position[][][][] =>
  Array.from({ length: 9 }, (_, i) => [square(x + (i % 3), y + Math.floor(i / 3), 1)])

describe('far parts of a land', () => {
  it('are found whether they are areas of their own or parts of one, also over the date line', () => {
    const country = land(
      ...block(170, 40),
      [square(-150, 20, 0.5)],
      [square(-178, -10, 0.3), square(-177, -10, 0.3)],
    )
    const found = farPartsOf(country)
    expect(found?.main.features).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8])
    expect(found?.far.map(({ features }) => features)).toEqual([[9], [10]])
    expect(extentOf([mainPartOf(country)])).toEqual([170, 40, 173, 43])
    const one = land([square(0, 0, 3), square(30, 0, 0.2)])
    expect(farPartsOf(one)?.far.map(({ features }) => features)).toEqual([[0]])
    // Isles in oceans on either side: no matter that together they reach round most of the globe.
    const scattered = land(...block(10, 50), [square(-140, -18, 0.5)], [square(165, -22, 0.5)])
    expect(farPartsOf(scattered)?.far.map(({ features }) => features)).toEqual([[9], [10]])
    expect(farPartsOf(one)?.main.squareMetres).toBeCloseTo(groundAreas(land([square(0, 0, 3)]))[0], 0)
  })

  it('are none where isles lie near, where a page would gain nothing, and in a whole world', () => {
    expect(farPartsOf(land(...block(0, 0), [square(3.2, 1, 0.3)]))).toBeNull()
    expect(farPartsOf(land(...block(0, 0), [square(3.55, 1, 0.1)]))).toBeNull()
    expect(farPartsOf(land(...block(-150, 0), ...block(-20, 30), ...block(120, -30)))).toBeNull()
    // An archipelago has no main land.
    expect(farPartsOf(land(...Array.from({ length: 6 }, (_, i) => [square(10 * i, 0, 0.2)])))).toBeNull()
    expect(farPartsOf(land([square(0, 0, 1)]))).toBeNull()
  })

  it('are the outlying group of Lindmere', () => {
    const { datasets } = openDemo()
    const districts = [...datasets.values()].find(({ entry }) => entry.name === 'Districts')
    const areas = districts?.dataset.geometry as Areas
    const found = farPartsOf(areas)
    expect(found?.far.length).toBeGreaterThan(0)
    const [west, south] = extentOf([areas]) as number[]
    const [mainWest, mainSouth] = extentOf([mainPartOf(areas)]) as number[]
    expect(mainWest - west + mainSouth - south).toBeGreaterThan(0.5)
  })
})
