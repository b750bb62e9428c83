import { contourDensity, contours } from 'd3-contour'
import { geometryFromShapes } from '@/core/geo/shapes'
import { contoursOf } from '@/core/grid/contours'
import type { Lattice } from '@/core/grid/grid'
import { costsFor } from '@/core/grid/hierarchy'
import { kernelDensity } from '@/core/grid/kernel-density'
import { costsFrom, costTo, nearestPlace, networkOf, type OnNetwork } from '@/core/grid/network'
import { fadingAt, potentialOver, type Fading } from '@/core/grid/potential'
import { drain } from '@/core/grid/steps'
import { createProjection } from '@/core/projection/projection'
import { interleaved, type Ratio } from './measure'

const plane: Lattice['plane'] = { id: 'lambert-azimuthal-equal-area', centre: [0, 50], parallels: [0, 0] }
const lattice: Lattice = { plane, x0: 0, y0: 0, cell: 1000, columns: 1000, rows: 800 }

let seed = 17
const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647

/** Points in a dozen crowds, as towns are. */
function crowds(count: number, width: number, height: number): Float64Array {
  const places = new Float64Array(2 * count)
  const middles = Array.from({ length: 12 }, () => [0.15 + 0.7 * random(), 0.15 + 0.7 * random()])
  for (let i = 0; i < count; i++) {
    const [x, y] = middles[i % 12]
    places[2 * i] = width * Math.min(0.99, Math.max(0.01, x + (random() - 0.5) * 0.3))
    places[2 * i + 1] = height * Math.min(0.99, Math.max(0.01, y + (random() - 0.5) * 0.3))
  }
  return places
}

/** Cells between those at which the plain double loop is measured. */
const everyPlain = 400

/**
 * Density and its contours against d3-contour on the same grid with as many levels; contours of a grid alone; and
 * potentials against a plain double loop, which is measured on one cell of 400.
 */
export function surfaceRatios(): Ratio[] {
  const places = crowds(100_000, 1e6, 8e5)
  const points = Array.from({ length: 100_000 }, (_, i): [number, number] => [
    places[2 * i] / 1000,
    places[2 * i + 1] / 1000,
  ])
  // Its bandwidth is a standard deviation; a quartic kernel of the same spread reaches √6 of them.
  const deviation = 20
  const theirs = contourDensity<[number, number]>().size([1000, 800]).cellSize(1).bandwidth(deviation)
  const bandwidth = deviation * Math.sqrt(6) * 1000
  const density = () =>
    drain(kernelDensity(lattice, { places, weights: null }, { kernel: 'quartic', bandwidth, mask: null }))
      .grid
  const levels = 20
  const grid = density()
  const highest = grid.values.reduce((most, value) => Math.max(most, value), 0)
  const at = Array.from({ length: levels }, (_, i) => (highest * (i + 1)) / (levels + 1))
  const values = [...grid.values]
  const single = contours().size([1000, 800])
  const times = interleaved({
    own: () => void contoursOf(density(), at),
    d3: () => void theirs.thresholds(levels)(points),
    ownLines: () => void contoursOf(grid, at),
    d3Lines: () => at.forEach((level) => single.contour(values, level)),
  })
  return [
    {
      name: 'density of 100,000 points with its contours',
      ratio: times.own / times.d3,
      budget: 2,
      base: `d3-contour’s estimate on as many cells (${times.d3.toFixed(0)} ms)`,
    },
    {
      name: 'contours of 800,000 cells',
      ratio: times.ownLines / times.d3Lines,
      budget: 1.5,
      base: `d3-contour’s contours (${times.d3Lines.toFixed(0)} ms)`,
    },
    potentialRatio(),
    networkRatio(),
  ]
}

function potentialRatio(): Ratio {
  const cells: Lattice = { ...lattice, columns: 500, rows: 400 }
  const places = crowds(36_000, 5e5, 4e5)
  const weights = Float64Array.from({ length: 36_000 }, () => random() ** 4 * 1000)
  const fading: Fading = { reach: 'exponential', span: 20_000, exponent: 1 }
  const start = performance.now()
  const grid = drain(potentialOver(cells, { places, weights }, fading))
  const own = performance.now() - start
  let worst = 0
  const begin = performance.now()
  let measured = 0
  for (let i = 0; i < grid.values.length; i += everyPlain) {
    measured++
    const x = ((i % 500) + 0.5) * 1000
    const y = (Math.floor(i / 500) + 0.5) * 1000
    let sum = 0
    for (let p = 0; p < weights.length; p++) {
      const [dx, dy] = [places[2 * p] - x, places[2 * p + 1] - y]
      sum += weights[p] * fadingAt(fading, Math.sqrt(dx * dx + dy * dy))
    }
    worst = Math.max(worst, Math.abs(grid.values[i] / sum - 1))
  }
  const plain = ((performance.now() - begin) / measured) * grid.values.length
  return {
    name: 'potentials of 36,000 places',
    ratio: own / plain,
    budget: worst < 0.005 ? 0.1 : 0,
    base: `the plain double loop (${(plain / 1000).toFixed(0)} s), off by ${(100 * worst).toFixed(3)} % at most`,
  }
}

/** Costs between 2,400 places along a made-up net of streets, by a hierarchy and by as many plain searches. */
function networkRatio(): Ratio {
  const size = 140
  const at = Array.from({ length: size * size }, (_, i) => [
    ((i % size) + 0.6 * random()) * 4000,
    (Math.floor(i / size) + 0.6 * random()) * 4000,
  ])
  const { invert } = createProjection(plane)
  const streets = at.flatMap((from, i) =>
    [i + 1, i + size].flatMap((j) => {
      const isNext = j === i + size ? j < at.length : j % size !== 0
      return isNext && random() < 0.8 ? [[from, at[j]]] : []
    }),
  )
  const lines = geometryFromShapes(
    streets.map((path): GeoJSON.Geometry => ({
      type: 'LineString',
      coordinates: path.map(([x, y]) => invert(x, y) ?? [0, 0]),
    })),
  )
  const network = networkOf(lines, plane, { toleranceM: 50, paces: null })
  if (!network) throw new Error('There are streets.')
  const places = Array.from({ length: 2400 }, () =>
    nearestPlace(network, random() * size * 4000, random() * size * 4000),
  )
  const timed = (costsOf: (source: OnNetwork) => Float64Array, sources: OnNetwork[]) => {
    let sum = 0
    for (const source of sources) {
      const costs = costsOf(source)
      for (const place of places) sum += costTo(network, costs, source, place)
    }
    return sum
  }
  const tried = places.slice(0, 200)
  let begin = performance.now()
  const plainSum = timed((source) => costsFrom(network, source), tried)
  const plain = ((performance.now() - begin) / tried.length) * places.length
  begin = performance.now()
  const costsOf = drain(costsFor(network, places.length))
  timed(costsOf, places)
  const own = performance.now() - begin
  const off = Math.abs(timed(costsOf, tried) / plainSum - 1)
  return {
    name: `2,400 × 2,400 places along ${network.from.length.toLocaleString('en-GB')} streets`,
    ratio: own / plain,
    budget: off < 1e-9 ? 0.8 : 0,
    base: `plain searches (${(plain / 1000).toFixed(1)} s; own ${(own / 1000).toFixed(1)} s)`,
  }
}
