import { createCanvas } from '@napi-rs/canvas'
import { geoEqualEarth } from 'd3-geo'
import Papa from 'papaparse'
import { topology } from 'topojson-server'
import type { FeatureCollection, MultiPolygon } from 'geojson'
import type { Topology } from 'topojson-specification'
import { extentOf } from '@/core/geo/extent'
import { geometryFromShapes } from '@/core/geo/shapes'
import { flatShapeOf } from '@/core/geo/sphere/flat'
import { borderFaults } from '@/core/geo/gaps'
import type { Areas } from '@/core/geo/geometry'
import { readFile } from '@/formats/registry'
import { finePlanet, makePlanet, smallPlanet, type Planet, type PlanetOptions } from '../demo/planet/planet'
import { mapOf, plainLoop } from './drawing'
import { interleaved, type Ratio } from './measure'

const [widthPx, heightPx] = [1200, 800]

const collectionOf = ({ states }: Planet): FeatureCollection<MultiPolygon> => ({
  type: 'FeatureCollection',
  features: states.map((state, f) => ({
    ...state,
    properties: { ...state.properties, value: 4 + (f % 23) },
  })),
})

/** First drawing, restyling and panning of the fine planet against a plain loop over the same features. */
export function planetDrawingRatios(): Ratio[] {
  const planet = makePlanet(finePlanet)
  const collection = collectionOf(planet)
  const topo = topology({ areas: collection as never }) as unknown as Topology
  const extent = extentOf([geometryFromShapes(planet.states.map(({ geometry }) => geometry))])
  const middle = extent ? (extent[0] + extent[2]) / 2 : 0
  // d3-geo takes rings the other way round: clockwise outside.
  const features = collection.features.map((one) => ({
    ...one,
    geometry: {
      ...one.geometry,
      coordinates: one.geometry.coordinates.map((rings) => rings.map((ring) => [...ring].reverse())),
    },
  }))
  const projection = geoEqualEarth()
    .rotate([-middle, 0])
    .fitExtent(
      [
        [20, 20],
        [widthPx - 20, heightPx - 20],
      ],
      { type: 'Sphere' },
    )
  const context = createCanvas(widthPx, heightPx).getContext('2d')
  const colours = ['#edf8fb', '#b2e2e2', '#66c2a4', '#2ca25f', '#006d2c']
  const scene = mapOf(topo)
  scene.draw(0)
  let fresh = mapOf(topo)
  let styled = 0
  const { base, first, restyled, panned } = interleaved({
    base: () => plainLoop(context, features, projection, colours),
    first: { run: () => fresh.draw(0), before: () => void (fresh = mapOf(topo)) },
    restyled: () => scene.draw(++styled),
    panned: () => scene.draw(styled, 0.002 * ++styled),
  })
  const d3 = `d3-geo’s path in a plain loop over the planet (${base.toFixed(0)} ms)`
  return [
    { name: 'planet, first drawing', ratio: first / base, budget: 1.2, base: d3 },
    { name: 'planet, other breaks', ratio: restyled / base, budget: 0.25, base: d3 },
    { name: 'planet, panning', ratio: panned / base, budget: 0.6, base: d3 },
  ]
}

/** Short work is run more often: what else the machine does weighs more there. */
const [leastRuns, leastMs] = [10, 2000]

/** The fastest runs of some work and of what it is measured against, by turns; milliseconds. */
async function fastest(work: () => unknown, against: () => unknown): Promise<{ own: number; base: number }> {
  const timed = async (one: () => unknown) => {
    const start = performance.now()
    await one()
    return performance.now() - start
  }
  let [own, base, spent] = [Infinity, Infinity, 0]
  for (let run = 0; run < leastRuns || spent < leastMs; run++) {
    const [a, b] = [await timed(against), await timed(work)]
    base = Math.min(base, a)
    own = Math.min(own, b)
    spent += a + b
  }
  return { own, base }
}

const verticesOf = ({ states }: Planet): number =>
  states.reduce(
    (n, { geometry }) => n + geometry.coordinates.flat().reduce((m, ring) => m + ring.length, 0),
    0,
  )

/** Growth is measured from a hundred thousand vertices to a million. */
const [fewFinest, manyFinest] = [0.16, 0.0145]
/** The small planet is read so often for each time that the large one is, to have as good a chance of quiet. */
const fewForMany = 5

/**
 * How reading and looking at borders grow with ten times as many vertices: exponents from the fastest of runs that take
 * turns, so that a slow minute of the machine falls on both planets.
 */
export async function growthRatios(): Promise<Ratio[]> {
  const sizes = [fewFinest, manyFinest].map((finest) => {
    const planet = makePlanet({ ...finePlanet, finest, cities: 1 })
    return {
      vertices: verticesOf(planet),
      bytes: new TextEncoder().encode(JSON.stringify(collectionOf(planet))),
      store: geometryFromShapes(planet.states.map(({ geometry }) => geometry)) as Areas,
      read: Infinity,
      borders: Infinity,
    }
  })
  const [few, many] = sizes
  for (let run = 0; run < leastRuns; run++)
    for (const one of sizes)
      for (let again = 0; again < (one === few ? fewForMany : 1); again++) {
        const start = performance.now()
        await readFile(one.bytes, 'uncut.geojson')
        const read = performance.now()
        if (run < 3) borderFaults(one.store)
        one.read = Math.min(one.read, read - start)
        if (run < 3) one.borders = Math.min(one.borders, performance.now() - read)
      }
  const exponent = (of: 'read' | 'borders') =>
    Math.log(many[of] / few[of]) / Math.log(many.vertices / few.vertices)
  const grown = `from ${few.vertices.toLocaleString('en-GB')} to ${many.vertices.toLocaleString('en-GB')} vertices`
  return [
    { name: 'growth of reading', ratio: exponent('read'), budget: 1.1, base: grown },
    { name: 'growth of looking at borders', ratio: exponent('borders'), budget: 1.1, base: grown },
  ]
}

/** Reading the planet's files against parsing them and building the topology. */
export async function readingRatios(): Promise<Ratio[]> {
  const ratios: Ratio[] = []
  const between: PlanetOptions = { ...finePlanet, finest: 0.18 }
  for (const [name, options, budget] of [
    ['small', smallPlanet, 2],
    ['of 100,000', between, 2],
    ['fine', finePlanet, 2],
  ] as const) {
    const planet = makePlanet({ ...options, cities: 1 })
    const collection = collectionOf(planet)
    const store = geometryFromShapes(planet.states.map(({ geometry }) => geometry)) as Areas
    const files = {
      'cut.geojson': JSON.stringify({
        ...collection,
        features: collection.features.map((one, f) => ({ ...one, geometry: flatShapeOf(store, f) })),
      }),
      'uncut.geojson': JSON.stringify(collection),
      'uncut.topojson': JSON.stringify(topology({ states: collection as never }, 1e6)),
    }
    for (const [file, text] of Object.entries(files)) {
      const bytes = new TextEncoder().encode(text)
      const parsed = files['uncut.geojson']
      const { own, base } = await fastest(
        () => readFile(bytes, file),
        () => topology({ all: JSON.parse(parsed) as never }),
      )
      ratios.push({
        name: `reading the ${name} planet, ${file}`,
        ratio: own / base,
        budget,
        base: `parsing and building the topology (${base.toFixed(0)} ms)`,
      })
    }
  }
  return ratios
}

/** Reading points from a table against its parser alone. */
export async function tableRatios(): Promise<Ratio[]> {
  const { cities } = makePlanet({ ...smallPlanet, cities: 100_000 })
  const csv = Papa.unparse(cities)
  const bytes = new TextEncoder().encode(csv)
  const { own: points, base: parser } = await fastest(
    () => readFile(bytes, 'cities.csv'),
    () => Papa.parse(csv),
  )
  return [
    {
      name: '100,000 points from CSV',
      ratio: points / parser,
      budget: 1.5,
      base: `the parser alone (${parser.toFixed(0)} ms)`,
    },
  ]
}
