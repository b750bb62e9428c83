import { channels } from '@/core/scene/paint'
import type { Node } from '@/core/scene/scene'
import { paintedNode, type PaperGrid } from './grid'
import type { Block } from './places'
import type { Sampler } from './sample'

/** Cells are painted in squares. */
const side = 256

/** Red, green, blue and opacity of a colour that covers what is below, 0 to 255. */
export function opaque(colour: string): number[] {
  const { r, g, b } = channels(colour)
  return [r, g, b, 255]
}

/** Sets the colour of a cell from the values of its bands: red, green, blue and opacity from `at`. */
export type Colour = (values: Float64Array, rgba: Uint8ClampedArray, at: number) => void

/** A raster in colours that go by its values: for each cell on paper those of one band or of several. */
export function paintSamples(grid: PaperGrid, samplers: Sampler[], colour: Colour): Node {
  return paintedNode(grid, (from, to) => {
    const rgba = new Uint8ClampedArray(4 * grid.columns * (to - from))
    for (let left = 0; left < grid.columns; left += side)
      for (let top = from; top < to; top += side) {
        const block = {
          ...{ left, top },
          columns: Math.min(side, grid.columns - left),
          rows: Math.min(to, top + side) - top,
        }
        eachCell(block, samplers, (i, values) =>
          colour(
            values,
            rgba,
            4 * ((top - from + Math.floor(i / block.columns)) * grid.columns + left + (i % block.columns)),
          ),
        )
      }
    return rgba
  })
}

function eachCell(block: Block, samplers: Sampler[], take: (i: number, values: Float64Array) => void): void {
  const samples = samplers.map((one) => one(block).values)
  const values = new Float64Array(samples.length)
  for (let i = 0; i < block.columns * block.rows; i++) {
    for (let k = 0; k < values.length; k++) values[k] = samples[k][i]
    take(i, values)
  }
}
