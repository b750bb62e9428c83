import { readFileSync } from 'node:fs'
import path from 'node:path'
import { describe, expect, it } from 'vitest'
import { numbersOf, textAt } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { matchKeys } from '@/core/data/join'
import { prepareDatasets } from '@/core/data/prepare'
import { summarise } from '@/core/data/summary'
import { classify } from '@/core/classify/classify'
import { arcNeighbours, featureCount, ringRange, type Areas } from '@/core/geo/geometry'
import { extentOf } from '@/core/geo/extent'
import { ringShape } from '@/core/geo/sphere/rings'
import { gridPlace, rasterAt } from '@/core/data/raster'
import { definitionOf } from '@/formats/crs/reproject'
import { readFile } from '@/formats/registry'
import { writeFolioFile } from '@/formats/folio-file/folio-file'
import { demoFolio } from '../folio'
import { planetFiles } from '../planet/files'
import { lindmere } from './country'
import { largeCountry } from './large'

const country = lindmere()
const { relief, cover } = country.ground()
const files: Record<string, string | Uint8Array> = {
  ...country.files,
  'relief.tif': relief,
  'land-cover.tif': cover,
}
const filesBytes = (name: string): Uint8Array =>
  typeof files[name] === 'string'
    ? new TextEncoder().encode(files[name] as string)
    : (files[name] as Uint8Array)
const committed = (name: string) => readFileSync(path.join(import.meta.dirname, '..', 'data', name), 'utf8')
const read = new Map<string, Dataset>()
for (const name of Object.keys(files))
  read.set(name, (await readFile(filesBytes(name), name)).datasets[0].dataset)
const datasetOf = (name: string): Dataset => read.get(name) as Dataset
const areasOf = (name: string): Areas => {
  const { geometry } = datasetOf(name)
  if (geometry.kind !== 'areas') throw new Error(`${name} holds no areas.`)
  return geometry
}
const numbers = (dataset: Dataset, key: string): Float64Array => {
  const column = fieldOf(dataset, key)
  if (!column) throw new Error(`There is no field ${key}.`)
  return numbersOf(column)
}

describe('the generator', () => {
  it('writes what is committed, to the byte', async () => {
    for (const name of Object.keys(files).filter((name) => name !== 'relief.tif'))
      expect(
        Buffer.compare(readFileSync(path.join(import.meta.dirname, '..', 'data', name)), filesBytes(name)),
        name,
      ).toBe(0)
    expect(
      committed('../a-country-that-reads.keen.json') ===
        writeFolioFile(await demoFolio({ ...files, ...planetFiles() })),
    ).toBe(true)
  })

  it('writes another country for another seed', () => {
    expect(lindmere(5).files['district-returns.csv']).not.toBe(files['district-returns.csv'])
  })
})

describe('the districts', () => {
  const districts = areasOf('districts.topojson')
  const provinces = areasOf('provinces.geojson')
  const areaOf = (areas: Areas, f: number) => {
    const [from, to] = ringRange(areas, f)
    let sum = 0
    for (let r = from; r < to; r++) sum += ringShape(areas, r).area / 2
    return sum
  }

  it('lie in the open ocean, 164 of them in 9 provinces', () => {
    const extent = extentOf([districts])
    expect(extent && extent[0] > -33 && extent[2] < -23 && extent[1] > 45 && extent[3] < 53).toBe(true)
    expect([featureCount(districts), featureCount(provinces)]).toEqual([164, 9])
  })

  it('share their borders exactly: every inner border is one arc with two neighbours', () => {
    const sides = arcNeighbours(districts)
    const shared = Array.from({ length: sides.length / 2 }, (_, a) => sides[2 * a + 1] >= 0).filter(
      Boolean,
    ).length
    expect(shared).toBeGreaterThan(300)
    const total = Array.from({ length: 164 }, (_, f) => areaOf(districts, f)).reduce((a, b) => a + b, 0)
    const whole = Array.from({ length: 9 }, (_, f) => areaOf(provinces, f)).reduce((a, b) => a + b, 0)
    expect(total / whole).toBeCloseTo(1, 9)
  })

  it('are from tiny to huge, with a ragged coast', () => {
    const sizes = Array.from({ length: 164 }, (_, f) => areaOf(districts, f)).sort((a, b) => a - b)
    expect(sizes[0]).toBeGreaterThan(0)
    expect(sizes[163] / sizes[8]).toBeGreaterThan(40)
    expect(districts.arcs.coords.length / 2).toBeGreaterThan(8000)
  })

  it('have names that are all different and pronounceable', () => {
    const column = fieldOf(datasetOf('districts.topojson'), 'name')
    const names = Array.from({ length: 164 }, (_, row) => (column && textAt(column, row)) ?? '')
    expect(new Set(names).size).toBe(164)
    for (const name of names) {
      expect(name).toMatch(/^[A-Z][a-z]+( [A-Z][a-z]+)?$/)
      expect(name.toLowerCase()).not.toMatch(/[^aeiouy ]{5,}/)
    }
  })
})

describe('the statistics are as hard as real ones', () => {
  const returns = datasetOf('district-returns.csv')

  it('a handful of codes do not match, some of them nearly', () => {
    const [left, right] = [fieldOf(datasetOf('districts.topojson'), 'code'), fieldOf(returns, 'code')]
    if (!left || !right) throw new Error('The codes are missing.')
    const match = matchKeys(left, right)
    expect(match.unmatched).toHaveLength(5)
    expect(match.nearMisses).toHaveLength(3)
  })

  it('distributions are skewed, with missing values, many zeros, and a class that comes out empty', () => {
    expect(summarise(numbers(returns, 'population')).skewness).toBeGreaterThan(1.5)
    expect(summarise(numbers(returns, 'lib_loans_2025')).missing).toBeGreaterThan(2)
    expect(numbers(returns, 'book_van_stops').filter((v) => v === 0).length).toBeGreaterThan(30)
    const rate = numbers(returns, 'lib_loans_2025').map((v, i) => v / numbers(returns, 'population')[i])
    expect(classify(rate, { method: 'equal-interval', classes: 8 })?.counts).toContain(0)
  })

  it('loans from 2010 to 2025 are whole numbers in every year', () => {
    for (let year = 2010; year <= 2025; year++)
      expect(
        numbers(returns, `lib_loans_${year}`).every(
          (v) => Number.isNaN(v) || (Number.isInteger(v) && v >= 0),
        ),
        String(year),
      ).toBe(true)
  })
})

describe('what grew with it', () => {
  it('parishes nest in the districts and share out their people', () => {
    const parishes = datasetOf('parishes.zip')
    expect(parishes.rowCount).toBeGreaterThan(1500)
    const district = fieldOf(parishes, 'district')
    const people = new Map<string, number>()
    const counted = numbers(parishes, 'population')
    for (let row = 0; row < parishes.rowCount; row++) {
      const code = (district && textAt(district, row)) ?? ''
      people.set(code, (people.get(code) ?? 0) + counted[row])
    }
    expect(people.size).toBe(164)
    const returns = datasetOf('district-returns.csv')
    const codes = fieldOf(returns, 'code')
    const populations = numbers(returns, 'population')
    const first = (codes && textAt(codes, 0)) ?? ''
    expect(Math.abs((people.get(first) ?? 0) / populations[0] - 1)).toBeLessThan(0.02)
  })

  it('libraries are points with a few large ones among many tiny ones; readers are thousands', () => {
    const libraries = datasetOf('libraries.csv')
    expect([libraries.rowCount, libraries.geometry.kind]).toEqual([310, 'points'])
    expect(summarise(numbers(libraries, 'visits')).skewness).toBeGreaterThan(3)
    expect([datasetOf('readers.csv').rowCount, datasetOf('readers.csv').geometry.kind]).toEqual([
      12_000,
      'points',
    ])
  })

  it('book-van routes come in hundreds of segments and make nine routes when merged', async () => {
    const routes = datasetOf('book-van-routes.geojson')
    expect(routes.rowCount).toBeGreaterThan(150)
    const { folio, contents } = await demoFolio({ ...files, ...planetFiles() })
    const merged = prepareDatasets(folio.datasets, (id) => contents.get(id) ?? null).get('routes')
    expect(merged?.dataset.rowCount).toBe(9)
    expect(merged?.dataset.geometry.kind === 'lines' && merged.dataset.geometry.ringStarts.length - 1).toBe(9)
  })

  it('the demo folio joins, counts, merges and derives without a problem', async () => {
    const { folio, contents } = await demoFolio({ ...files, ...planetFiles() })
    const provinces = prepareDatasets(folio.datasets, (id) => contents.get(id) ?? null).get('by-province')
    expect(provinces?.reports.map(({ problem }) => problem)).toEqual([null, null, null, null])
    expect(provinces?.dataset.rowCount).toBe(9)
    const libraries = provinces && numbers(provinces.dataset, 'libraries').reduce((a, b) => a + b, 0)
    expect(libraries).toBeGreaterThan(280)
    expect(libraries).toBeLessThanOrEqual(310)
  })
})

it('larger countries are made on demand, as large as asked for', async () => {
  const topology = largeCountry(900, 27_000)
  const { dataset } = (await readFile(new TextEncoder().encode(JSON.stringify(topology)), 'large.topojson'))
    .datasets[0]
  if (dataset.geometry.kind !== 'areas') throw new Error('A country is made of areas.')
  expect(dataset.rowCount).toBe(900)
  const vertices = dataset.geometry.refs.reduce(
    (n, ref) =>
      n +
      (dataset.geometry.kind === 'areas'
        ? dataset.geometry.arcs.starts[(ref < 0 ? ~ref : ref) + 1] -
          dataset.geometry.arcs.starts[ref < 0 ? ~ref : ref]
        : 0),
    0,
  )
  expect(vertices / 27_000).toBeGreaterThan(0.8)
  expect(vertices / 27_000).toBeLessThan(1.25)
})

describe('the relief', () => {
  const { raster } = datasetOf('relief.tif')
  if (!raster) throw new Error('The relief is no raster.')
  const { fromDegrees } = definitionOf('EPSG:32626')
  const at = (lon: number, lat: number) =>
    rasterAt(raster, 0, ...gridPlace(raster, ...(fromDegrees?.(lon, lat) as [number, number])))

  it('has some ten million cells of 200 m, of which the land has heights', () => {
    expect(raster.fileSize[0] * raster.fileSize[1]).toBeGreaterThan(9e6)
    expect(raster.fine?.levels).toBe(2)
    expect(at(-36, 50)).toBeNaN()
    const heights = raster.values.filter((value) => value === value)
    expect(heights.length / raster.values.length).toBeGreaterThan(0.15)
    expect(heights.reduce((a, b) => Math.max(a, b))).toBeGreaterThan(1000)
    expect(heights.reduce((a, b) => Math.min(a, b))).toBeGreaterThanOrEqual(1)
  })

  it('has its rivers in valleys: nearly all of them below the ground on both sides', () => {
    const { geometry } = datasetOf('rivers.geojson')
    if (geometry.kind !== 'lines') throw new Error('Rivers are no lines.')
    const { coords } = geometry.arcs
    let [below, looked] = [0, 0]
    for (let i = 0; i + 21 < coords.length; i += 20) {
      const [lon, lat] = [coords[i], coords[i + 1]]
      const sides = [0.06, -0.06].flatMap((by) => [at(lon + by, lat), at(lon, lat + by)])
      const here = at(lon, lat)
      if (![here, ...sides].every(Number.isFinite)) continue
      looked++
      if (here < Math.max(...sides)) below++
    }
    expect(looked).toBeGreaterThan(20)
    expect(below / looked).toBeGreaterThan(0.95)
  })
})
