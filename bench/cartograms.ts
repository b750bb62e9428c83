import { openDemo } from '../demo/open'
import { allotted } from '@/core/cartogram/blocks/allot'
import { layOutBlocks } from '@/core/cartogram/blocks/make'
import { flowed } from '@/core/cartogram/flow'
import { planeAreas } from '@/core/cartogram/plane'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Areas } from '@/core/geo/geometry'
import { drain } from '@/core/grid/steps'
import { createProjection } from '@/core/projection/projection'
import { interleaved, type Ratio } from './measure'

/** A sheet of `columns` by `rows` areas in metres, each side of which is bent at `bends` vertices. */
export function bentSheet(columns: number, rows: number, bends: number): Areas {
  const coords: number[] = []
  const starts = [0]
  const size = 10_000
  let seed = 5
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5
  const corner = (c: number, r: number): [number, number] => [c * size, r * size]
  const line = (from: [number, number], to: [number, number]): number => {
    for (let k = 0; k <= bends + 1; k++) {
      const share = k / (bends + 1)
      const off = k === 0 || k > bends ? 0 : 0.12 * size
      coords.push(
        from[0] + share * (to[0] - from[0]) + off * random(),
        from[1] + share * (to[1] - from[1]) + off * random(),
      )
    }
    starts.push(coords.length / 2)
    return starts.length - 2
  }
  const across = Array.from({ length: rows + 1 }, (_, r) =>
    Array.from({ length: columns }, (__, c) => line(corner(c, r), corner(c + 1, r))),
  )
  const down = Array.from({ length: rows }, (_, r) =>
    Array.from({ length: columns + 1 }, (__, c) => line(corner(c, r), corner(c, r + 1))),
  )
  const refs: number[] = []
  const ringStarts = [0]
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      refs.push(across[r][c], down[r][c + 1], ~across[r + 1][c], ~down[r][c])
      ringStarts.push(refs.length)
    }
  const each = Uint32Array.from({ length: columns * rows + 1 }, (_, i) => i)
  return {
    kind: 'areas',
    arcs: { coords: Float64Array.from(coords), starts: Uint32Array.from(starts) },
    refs: Int32Array.from(refs),
    ringStarts: Uint32Array.from(ringStarts),
    polygonStarts: each,
    featureStarts: each,
  }
}

/**
 * A block cartogram against a continuous one of the same map, and a continuous one of 3,000 areas and 300,000 vertices
 * on a board of four times as many cells against the smaller board.
 */
export function cartogramRatios(): Ratio[] {
  const { datasets } = openDemo()
  const districts = datasets.get('districts')?.dataset
  if (districts?.geometry.kind !== 'areas') throw new Error('The demo has no districts.')
  const people = fieldOf(districts, 'population')
  if (!people) throw new Error('The districts have no people.')
  const values = numbersOf(people)
  const plane = planeAreas(
    districts.geometry,
    createProjection({ id: 'lambert-azimuthal-equal-area', centre: [-26, 48], parallels: [0, 0] }),
  )
  const shares = allotted(values, 1500)
  const there = [...shares.keys()].filter((f) => shares[f] > 0 && plane.areas[f] > 0)
  const bodies = {
    of: Int32Array.from(shares, (_, f) => there.indexOf(f)),
    blocks: Int32Array.from(there, (f) => shares[f]),
  }
  const small = interleaved({
    blocks: () => void drain(layOutBlocks(plane, bodies, 'hexagons', 1)),
    continuous: () => void drain(flowed(plane.projected, values)),
  })
  const sheet = bentSheet(60, 50, 48)
  const amounts = Float64Array.from({ length: 3000 }, (_, f) => 1 + ((f * 7919) % 13))
  const on = (cells: number): number => {
    const start = performance.now()
    drain(flowed(sheet, amounts, { most: 4, enough: 0, cells }))
    return (performance.now() - start) / 4
  }
  const [smaller, larger] = [on(256), on(512)]
  const whole = performance.now()
  drain(flowed(sheet, amounts))
  const seconds = ((performance.now() - whole) / 1000).toFixed(1)
  return [
    {
      name: 'blocks for 164 districts, 1,500 in all',
      ratio: small.blocks / small.continuous,
      budget: 3,
      base: `the continuous cartogram of the same map (${small.continuous.toFixed(0)} ms)`,
    },
    {
      name: `a round of a continuous cartogram, 3,000 areas, ${(sheet.arcs.coords.length / 2).toLocaleString('en-GB')} vertices, 512 cells (whole: ${seconds} s)`,
      ratio: larger / smaller,
      budget: 6,
      base: `a round on a board of 256 cells (${smaller.toFixed(0)} ms)`,
    },
  ]
}
