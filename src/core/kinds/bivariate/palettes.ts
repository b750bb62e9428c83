import { rgb } from 'd3-color'
import { coloursFor, shadeOf, type Colouring } from '@/core/colour/colouring'
import type { Colour } from '@/core/scene/paint'

type Grid = readonly (readonly Colour[])[]

/**
 * Published fields of colours for two variables of three classes each, rows from the lowest. Hues after
 * Trumbo (1981) and Brewer (1994): one variable to each side, both together darkest; the sets are Stevens's
 * (2015).
 */
export const squares = {
  'orchid and pool': {
    label: 'Orchid and pool',
    grid: [
      ['#e8e8e8', '#ace4e4', '#5ac8c8'],
      ['#dfb0d6', '#a5add3', '#5698b9'],
      ['#be64ac', '#8c62aa', '#3b4994'],
    ],
  },
  'moss and slate': {
    label: 'Moss and slate',
    grid: [
      ['#e8e8e8', '#b5c0da', '#6c83b5'],
      ['#b8d6be', '#90b2b3', '#567994'],
      ['#73ae80', '#5a9178', '#2a5a5b'],
    ],
  },
  'brick and pool': {
    label: 'Brick and pool',
    grid: [
      ['#e8e8e8', '#e4acac', '#c85a5a'],
      ['#b0d5df', '#ad9ea5', '#985356'],
      ['#64acbe', '#627f8c', '#574249'],
    ],
  },
  'ochre and heather': {
    label: 'Ochre and heather',
    grid: [
      ['#e8e8e8', '#e4d9ac', '#c8b35a'],
      ['#cbb8d7', '#c8ada0', '#af8e53'],
      ['#9972af', '#976b82', '#804d36'],
    ],
  },
} satisfies Record<string, { label: string; grid: Grid }>
export type SquareId = keyof typeof squares
export const squareIds = Object.keys(squares) as [SquareId, ...SquareId[]]

const mix = (from: Colour, to: Colour, share: number): Colour => {
  const [a, b] = [rgb(from), rgb(to)]
  return rgb(a.r + (b.r - a.r) * share, a.g + (b.g - a.g) * share, a.b + (b.b - a.b) * share).formatHex()
}

/** A published field as it is with three classes to a side; with others, read off between its colours. */
export function squareColours(id: SquareId, columns: number, rows: number): Colour[][] {
  const { grid } = squares[id]
  const along = (i: number, count: number): [number, number] => {
    const at = count === 1 ? 0 : (2 * i) / (count - 1)
    return [Math.min(1, Math.floor(at)), at - Math.min(1, Math.floor(at))]
  }
  return Array.from({ length: rows }, (_, r) =>
    Array.from({ length: columns }, (_, c) => {
      const [[x, dx], [y, dy]] = [along(c, columns), along(r, rows)]
      return mix(mix(grid[y][x], grid[y][x + 1], dx), mix(grid[y + 1][x], grid[y + 1][x + 1], dx), dy)
    }),
  )
}

/** Opacity of the palest row of a value-by-alpha map; under it hues cannot be told apart. */
const faintest = 0.15

/**
 * Value by alpha (Roth, Woodruff and Johnson 2010): colours by the first field, fading into the ground where
 * the second one is low. The blend is what opacity over a flat ground would give.
 */
export const fadingColours = (
  colouring: Colouring,
  ground: Colour,
  columns: number,
  rows: number,
): Colour[][] =>
  Array.from({ length: rows }, (_, r) =>
    coloursFor(colouring, columns).map((colour) =>
      mix(ground, colour, rows === 1 ? 1 : faintest + ((1 - faintest) * r) / (rows - 1)),
    ),
  )

/** What uncertain values fade to. */
const unsure: Colour = '#dcdcdc'

/**
 * A palette that suppresses values as they become uncertain (Correll, Moritz and Heer 2018): with every row
 * upwards half as many colours, nearer to grey; the last row has one.
 */
export const suppressingColours = (colouring: Colouring, rows: number): Colour[][] =>
  Array.from({ length: rows }, (_, r) => {
    const count = 2 ** (rows - 1 - r)
    return Array.from({ length: count }, (_, c) =>
      mix(
        count === 2 ** (rows - 1) ? coloursFor(colouring, count)[c] : shadeOf(colouring, (c + 0.5) / count),
        unsure,
        rows === 1 ? 0 : (0.85 * r) / (rows - 1),
      ),
    )
  })
