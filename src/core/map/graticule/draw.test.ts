import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../demo/open'
import { createProjection } from '@/core/projection/projection'
import { degreesText, graticuleLines, proposedInterval } from './draw'
import type { MapSpec } from '../spec'
import { paperTransform } from '../view'

const { folio } = openDemo()

describe('the graticule', () => {
  const spec: MapSpec['projection'] = {
    ...folio.maps[0].projection,
    id: 'equidistant-cylindrical',
    centre: [0, 0],
    parallels: [0, 0],
  }
  const window = { x: 0, y: 0, width: 200, height: 100 }
  it('has its lines at whole multiples of the interval, straight on a cylinder', () => {
    const projection = createProjection(spec)
    const to = paperTransform(projection, { centre: [15, 45], scaleDenominator: 20e6 }, window)
    const lines = graticuleLines(5, projection, to, window)
    const meridians = lines.filter(({ along }) => along === 'meridian')
    expect(meridians.map(({ degrees }) => degrees)).toEqual(expect.arrayContaining([5, 10, 15, 20, 25]))
    const fifteen = meridians.find(({ degrees }) => degrees === 15)
    fifteen?.pieces[0].forEach((value, i) => i % 2 === 0 && expect(value).toBeCloseTo(100, 6))
    const parallel = lines.find(({ along, degrees }) => along === 'parallel' && degrees === 45)
    parallel?.pieces[0].forEach((value, i) => i % 2 === 1 && expect(value).toBeCloseTo(50, 6))
  })
  it('draws the whole world once, without lines across it', () => {
    const projection = createProjection({ ...spec, id: 'mollweide' })
    const to = paperTransform(projection, { centre: [0, 0], scaleDenominator: 220e6 }, window)
    const lines = graticuleLines(30, projection, to, window)
    expect(lines.filter(({ along }) => along === 'meridian')).toHaveLength(12)
    expect(lines.filter(({ along }) => along === 'parallel')).toHaveLength(5)
    for (const { pieces } of lines)
      for (const piece of pieces)
        for (let i = 2; i < piece.length; i += 2)
          expect(Math.hypot(piece[i] - piece[i - 2], piece[i + 1] - piece[i - 1])).toBeLessThan(5)
  })
  it('takes a coarser interval where the one chosen would blacken the map', () => {
    const projection = createProjection(spec)
    const to = paperTransform(projection, { centre: [0, 0], scaleDenominator: 220e6 }, window)
    expect(graticuleLines(0.01, projection, to, window).length).toBeLessThan(40)
  })
  it('writes degrees and minutes', () => {
    expect(degreesText('meridian', -12.5)).toBe('12° 30′ W')
    expect(degreesText('parallel', 7)).toBe('7° N')
    expect(degreesText('meridian', 180)).toBe('180°')
    expect(degreesText('parallel', 0)).toBe('0°')
    expect(proposedInterval([-180, -90, 180, 90])).toBe(30)
    expect(proposedInterval([0, 0, 6, 4])).toBe(1)
  })
})
