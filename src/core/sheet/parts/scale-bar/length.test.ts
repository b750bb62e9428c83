import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { barLength, units } from './length'

describe('scale bar lengths', () => {
  it('are the longest round ones that fit', () => {
    expect(barLength(44, 3200, 'metric')).toEqual({
      total: 100,
      label: 'km',
      parts: 2,
      widthMm: 31.25,
      left: 0,
    })
    expect(barLength(44, 24, 'metric')).toMatchObject({ total: 1, label: 'km' })
    expect(barLength(44, 10, 'metric')).toMatchObject({ total: 200, label: 'm' })
    expect(barLength(40, 3200, 'imperial')).toMatchObject({ total: 50, label: 'miles', parts: 5 })
    expect(barLength(50, 40, 'imperial')).toMatchObject({ total: 1, label: 'mile' })
  })

  it('are 1, 2 or 5 times a power of ten, at least 40 % of the room, and right on the ground', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 200, noNaN: true }),
        fc.double({ min: 0.5, max: 50_000, noNaN: true }),
        fc.constantFrom('metric' as const, 'imperial' as const),
        (room, metresPerMm, system) => {
          const bar = barLength(room, metresPerMm, system)
          expect(bar.widthMm).toBeLessThanOrEqual(room * (1 + 1e-9))
          const digits = Number(bar.total.toExponential(0).split('e')[0])
          expect([1, 2, 5]).toContain(digits)
          const unit =
            units[system].find(({ label, one }) => label === bar.label || one === bar.label) ??
            units[system][0]
          expect((bar.widthMm * metresPerMm) / (bar.total * unit.metres)).toBeCloseTo(1, 9)
          if (room * metresPerMm > units[system][0].metres * 1.01)
            expect(bar.widthMm).toBeGreaterThan(0.39 * room)
        },
      ),
    )
  })
})
