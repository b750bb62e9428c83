import { describe, expect, it } from 'vitest'
import { gridOnPaper, paintedNode } from '@/core/kinds/cells-on-paper/grid'
import { createProjection } from '@/core/projection/projection'
import { group, type Raster } from '@/core/scene/scene'
import { paintSteps } from './paint-steps'

const projection = createProjection({ id: 'mercator', centre: [0, 0], parallels: [0, 0] })
const mmPerMetre = 100 / (projection.project(10, 0)[0] - projection.project(0, 0)[0])
const grid = gridOnPaper(Float64Array.of(0, 0, 10, 0, 10, -10, 0, -10), {
  projection,
  to: { mmPerMetre, dx: 0, dy: 0, turn: 0 } as never,
  window: { x: 0, y: 0, width: 100, height: 100 },
  toleranceMm: 0.1,
})
if (!grid) throw new Error('It lies in the window.')

/** A raster whose cells tell their row, and which rows were asked for. */
function striped() {
  const asked: [number, number][] = []
  const node = paintedNode(grid!, (from, to) => {
    asked.push([from, to])
    const rgba = new Uint8ClampedArray(4 * grid!.columns * (to - from))
    for (let i = 0; i < rgba.length; i++) rgba[i] = (from + Math.floor(i / 4 / grid!.columns)) % 251
    return rgba
  }) as Raster
  return { asked, node }
}

describe('rasters that are reckoned in pieces', () => {
  it('tell how far they are, and have every row once', () => {
    const { asked, node } = striped()
    const steps = paintSteps({ children: [group('a', [node])] })
    const shares: number[] = []
    if (steps) for (const share of steps) shares.push(share)
    expect(shares.length).toBe(Math.ceil(node.rows / 128))
    expect(shares.every((share, i) => i === 0 || share > shares[i - 1])).toBe(true)
    expect(shares.at(-1)).toBe(1)
    expect(asked.map(([from]) => from)).toEqual(shares.map((_, i) => 128 * i))
    expect(node.rgba(300, 301)[0]).toBe(300 % 251)
    expect(asked.length).toBe(shares.length)
  })

  it('are the same when they are asked for at once, after some of them, or not in pieces', () => {
    const { node: whole } = striped()
    const { node: begun } = striped()
    begun.paint?.().next()
    expect(begun.rgba(0, begun.rows)).toEqual(whole.rgba(0, whole.rows))
    expect(paintSteps({ children: [{ ...whole, paint: undefined }] })).toBeNull()
  })
})
