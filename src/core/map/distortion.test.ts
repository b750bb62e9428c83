import { describe, expect, it } from 'vitest'
import { createProjection } from '@/core/projection/projection'
import { walk, type Text } from '@/core/scene/scene'
import { outlineBox } from '@/core/scene/outline'
import { fontBookOf } from '@/render/font-files'
import { distortionFonts, drawDistortion, errorSteps } from './distortion'
import { paperTransform } from './view'

const fonts = fontBookOf(distortionFonts)
const window = { x: 0, y: 0, width: 210, height: 105 }
const drawn = (
  id: 'mercator' | 'mollweide' | 'lambert-azimuthal-equal-area',
  look: 'ellipses' | 'lines',
  scaleDenominator = 200e6,
  centre: [number, number] = [0, 0],
) => {
  const projection = createProjection({ id, centre, parallels: [0, 0] })
  return drawDistortion(look, projection, paperTransform(projection, { centre, scaleDenominator }, window), {
    window,
    fonts,
  })
}

describe('the distortion view', () => {
  it('draws circles of one size where nothing is distorted, and larger ones where the map grows', () => {
    const sizes = (id: 'mercator' | 'lambert-azimuthal-equal-area', scale: number) =>
      [...walk([drawn(id, 'ellipses', scale)])].flatMap((node) =>
        node.type === 'path' && node.fill ? [outlineBox(node.outline)] : [],
      )
    const near = sizes('lambert-azimuthal-equal-area', 2e6)
    expect(near.length).toBeGreaterThan(30)
    for (const box of near) {
      expect(box?.width).toBeCloseTo(8, 1)
      expect(box?.height).toBeCloseTo(8, 1)
    }
    const world = sizes('mercator', 200e6).map((box) => ({
      y: (box?.y ?? 0) + (box?.height ?? 0) / 2,
      width: box?.width ?? 0,
    }))
    const [middle, edge] = [world.filter(({ y }) => Math.abs(y - 52) < 12), world.filter(({ y }) => y < 20)]
    expect(edge[0].width).toBeGreaterThan(1.3 * middle[0].width)
  })

  it('writes angles in degrees where areas are true, and areas in per cent elsewhere', () => {
    const words = (id: 'mercator' | 'mollweide') =>
      [...walk([drawn(id, 'lines')])]
        .filter((node): node is Text => node.type === 'text')
        .map(({ text }) => text)
    expect(words('mollweide').length).toBeGreaterThan(1)
    for (const text of words('mollweide')) expect(text).toMatch(/^[\d.]+°$/)
    for (const text of words('mercator')) expect(text).toMatch(/^[+−][\d.]+ %$/)
  })

  it('takes round steps between what there is, not too many', () => {
    expect(errorSteps(0, 0.03)).toEqual([0.001, 0.002, 0.005, 0.01, 0.02])
    expect(errorSteps(-12, 300).length).toBeLessThanOrEqual(9)
    expect(errorSteps(0, 0)).toEqual([])
  })
})
