import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../demo/open'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { ringRange, type Areas } from '@/core/geo/geometry'
import { ringPositions } from '@/core/geo/shapes'
import { projectGeometry } from '@/core/geo/projected'
import { drain } from '@/core/grid/steps'
import { createProjection } from '@/core/projection/projection'
import { selfCrossings } from '@/formats/self-crossings'
import { flowed, wantedError } from '../flow'
import { makeCartogram } from '../make'
import { ringAreas } from '../plane'
import { cosineTransform } from './cosines'
import { fluxOf } from './flux'
import { integrated } from './integrate'
import { foldsIn, moved } from './mesh'
import { densityOf } from './rasterise'

const number = fc.double({ min: -100, max: 100, noNaN: true })
const board = { cell: 1, columns: 32, rows: 16, x0: 0, y0: 0 }

describe('the cosine transform', () => {
  it('is the sum that it stands for, and comes back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(2, 8, 16),
        fc.array(number, { minLength: 32, maxLength: 32 }),
        (n, list) => {
          const values = Float64Array.from(list)
          const waves = values.slice()
          const transform = cosineTransform(n)
          transform.forward(waves)
          for (let row = 0; row < 32; row += n)
            for (let k = 0; k < n; k++) {
              let sum = 0
              for (let i = 0; i < n; i++) sum += values[row + i] * Math.cos((Math.PI * (i + 0.5) * k) / n)
              expect(Math.abs(waves[row + k] - sum)).toBeLessThan(1e-9)
            }
          transform.back(waves)
          waves.forEach((value, i) => expect(Math.abs(value - values[i])).toBeLessThan(1e-9))
        },
      ),
    )
  })
})

describe('what flows', () => {
  const density = Float64Array.from({ length: 32 * 16 }, (_, i) => 0.2 + ((i * 37) % 23) / 10)

  it('out of each cell is what it has too much, and nothing leaves the board', () => {
    const { x, y, mean } = drain(fluxOf(density, board))
    for (let r = 0; r < 16; r++) {
      expect([x[r * 33], x[r * 33 + 32]]).toEqual([0, 0])
      for (let c = 0; c < 32; c++) {
        const out = x[r * 33 + c + 1] - x[r * 33 + c] + y[(r + 1) * 32 + c] - y[r * 32 + c]
        expect(Math.abs(out - (density[r * 32 + c] - mean))).toBeLessThan(1e-9)
      }
    }
  })

  it('takes places along without turning any piece over; where it is even nothing moves', () => {
    const mesh = drain(integrated(drain(fluxOf(density, board)), density, board))
    expect(foldsIn(mesh, board)).toBe(0)
    const even = new Float64Array(32 * 16).fill(3)
    const still = drain(integrated(drain(fluxOf(even, board)), even, board))
    const coords = Float64Array.of(3.3, 4.4, 31.9, 15.9, 0, 0)
    const before = coords.slice()
    moved(coords, still, board)
    coords.forEach((value, i) => expect(Math.abs(value - before[i])).toBeLessThan(1e-9))
    // A triangle that is turned over is seen.
    still[2 * 40] += 3
    expect(foldsIn(still, board)).toBeGreaterThan(0)
  })
})

const { datasets, folio } = openDemo()
const { dataset } = datasets.get('districts')!
const districts = dataset.geometry as Areas
const projection = createProjection(folio.maps[0].projection)
const people = numbersOf(fieldOf(dataset, 'population')!)

describe('density on the board', () => {
  it('holds what the areas hold, however they lie on its cells', () => {
    const square = (x: number, y: number, side: number): Areas => ({
      kind: 'areas',
      arcs: {
        coords: Float64Array.of(x, y, x + side, y, x + side, y + side, x, y + side, x, y),
        starts: Uint32Array.of(0, 5),
      },
      refs: Int32Array.of(0),
      ringStarts: Uint32Array.of(0, 1),
      polygonStarts: Uint32Array.of(0, 1),
      featureStarts: Uint32Array.of(0, 1),
    })
    for (const [x, y] of [
      [3, 4],
      [3.3, 4.25],
      [7.9, 2.5],
    ]) {
      const values = drain(densityOf(square(x, y, 4), Float64Array.of(5), board, 0))
      const sum = values.reduce((all, value) => all + value - 1, 0)
      expect(sum).toBeCloseTo(4 * 16, 6)
      const smooth = drain(densityOf(square(x, y, 4), Float64Array.of(5), board, 1.5))
      // What is smoothed over the edge of the board is lost.
      expect(Math.abs(smooth.reduce((all, value) => all + value - 1, 0) - 64)).toBeLessThan(1)
      expect(Math.max(...smooth)).toBeLessThan(Math.max(...values))
    }
  })
})

describe('a continuous cartogram of the districts', () => {
  const projected = projectGeometry(districts, projection) as Areas
  const { areas, fit } = drain(flowed(projected, people))
  const made = drain(makeCartogram(districts, people, { form: 'continuous', m2: 1e4 }, projection))

  it('makes every area right to a hundredth, and nothing folds over', () => {
    expect(fit.worst).toBeLessThan(wantedError)
    expect(fit.folds).toBe(0)
    const [before, after] = [ringAreas(projected), ringAreas(areas)]
    const sum = (of: Float64Array) => of.reduce((all, value, f) => all + (people[f] > 0 ? value : 0), 0)
    const all = people.reduce((total, value) => total + (value > 0 ? value : 0), 0)
    for (let f = 0; f < people.length; f++) {
      const wanted = people[f] > 0 ? (people[f] / all) * sum(before) : before[f]
      if (wanted > 0) expect(Math.abs(after[f] / wanted - 1)).toBeLessThan(wantedError)
    }
  })

  it('keeps the borders that areas share, and no ring crosses itself that did not before', () => {
    expect(areas.refs).toEqual(projected.refs)
    const crossings = (of: Areas): number => {
      let count = 0
      for (let f = 0; f < people.length; f++) {
        const [from, to] = ringRange(of, f)
        for (let r = from; r < to; r++) count += selfCrossings(ringPositions(of, r), 10).count
      }
      return count
    }
    // One border of the country has a loop, which both of its neighbours have.
    expect(crossings(made.geometry as Areas)).toBe(crossings(districts))
    expect(made.judged).toMatchObject({ pairs: made.judged.touching, touching: 419 })
  })

  it('is all together as large as was asked for, and the same each time', () => {
    const again = ringAreas(projectGeometry(made.geometry, projection) as Areas)
    let [wanted, got] = [0, 0]
    people.forEach((value, f) => {
      if (!(value > 0)) return
      wanted += value * 1e4
      got += again[f]
      expect(Math.abs(again[f] / (value * 1e4) - 1)).toBeLessThan(wantedError)
    })
    expect(Math.abs(got / wanted - 1)).toBeLessThan(1e-6)
    expect(drain(makeCartogram(districts, people, { form: 'continuous', m2: 1e4 }, projection))).toEqual(made)
  })

  it('is only made larger or smaller where nothing but that is changed', () => {
    const steps = makeCartogram(districts, people, { form: 'continuous', m2: 2e4 }, projection)
    // Nothing is reckoned anew: once areas are on the map, it begins where the flow would have ended.
    expect(Math.min(...[...steps].filter((share) => share > 0))).toBeGreaterThan(0.9)
    const twice = ringAreas(
      projectGeometry(
        drain(makeCartogram(districts, people, { form: 'continuous', m2: 2e4 }, projection)).geometry,
        projection,
      ) as Areas,
    )
    const once = ringAreas(projectGeometry(made.geometry, projection) as Areas)
    twice.forEach((m2, f) => once[f] > 0 && expect(Math.abs(m2 / once[f] - 2)).toBeLessThan(1e-6))
  })

  it('moves nothing where areas are right from the beginning', () => {
    const still = drain(flowed(projected, ringAreas(projected)))
    expect(still.fit).toMatchObject({ rounds: 0, folds: 0 })
  })
})
