import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../demo/open'
import { neighbourPairs } from '@/core/geo/neighbours'
import { kindData } from '@/core/map/layer-plan'
import { valuesOf } from '../values'
import { contrast } from '.'
import { classWidthPt, contrastOf, widthPt } from './plan'
import type { ContrastSettings } from './spec'

const { datasets } = openDemo()
const data = kindData(datasets.get('districts')!)
const settings: ContrastSettings = {
  ...contrast.initial(data),
  field: 'lib_loans_2025',
  per: 'population',
}
const plan = contrast.plan(settings, data)

describe('the contrast of two values', () => {
  it('is their difference, their ratio, or the difference in percent of their mean', () => {
    expect(contrastOf('difference', 3, 8)).toBe(5)
    expect(contrastOf('ratio', 2, 8)).toBe(4)
    expect(contrastOf('relative', 6, 10)).toBe(50)
    expect(contrastOf('relative', 10, 6)).toBe(50)
  })

  it('is none where a value is missing or a ratio has no meaning', () => {
    expect(contrastOf('difference', NaN, 1)).toBeNaN()
    expect(contrastOf('ratio', 0, 5)).toBeNaN()
    expect(contrastOf('ratio', -1, 5)).toBeNaN()
    expect(contrastOf('relative', 0, 0)).toBeNaN()
    expect(contrastOf('difference', -1, 5)).toBe(6)
  })
})

describe('a map of contrast', () => {
  it('has a line for each pair of neighbours with values, and says how many have none', () => {
    const shown = valuesOf(settings, data.dataset)
    const pairs = neighbourPairs(data.dataset.geometry)
    let missing = 0
    pairs.a.forEach((a, i) => {
      const wanted = Math.abs(shown[a] - shown[pairs.b[i]])
      if (Number.isNaN(wanted)) missing++
      else expect(plan.values[i]).toBeCloseTo(wanted, 12)
      if (!Number.isNaN(wanted)) expect(shown[plan.higher[i]]).toBe(Math.max(shown[a], shown[pairs.b[i]]))
    })
    expect(plan.missing).toBe(missing)
    expect(missing).toBeGreaterThan(0)
  })

  it('draws widths in proportion, or one for each class up to the widest', () => {
    const widest = plan.values.indexOf(plan.largest)
    expect(widthPt(plan, settings, widest)).toBe(settings.widestPt)
    const half = [...plan.values.keys()].find((i) => plan.values[i] < plan.largest / 2)!
    expect(widthPt(plan, settings, half) / settings.widestPt).toBeCloseTo(
      plan.values[half] / plan.largest,
      12,
    )
    expect([0, 1, 2, 3].map((c) => classWidthPt(c, 4, settings))).toEqual([1.25, 2.5, 3.75, 5])
    const classes = contrast.legend(plan, { ...settings, width: 'classes' }, data, null)
    expect(classes.items).toHaveLength(4)
  })

  it('leaves out the least contrast, and warns of ratios with zero', () => {
    const own = { ...settings, least: 1 }
    const less = contrast.plan(own, data)
    expect(less.leftOut).toBeGreaterThan(50)
    expect(less.values.filter((value) => value < 1)).toHaveLength(0)
    const zeros = { ...settings, contrast: 'ratio' as const, field: 'book_van_stops', per: null }
    const ratio = contrast.plan(zeros, data)
    if (ratio.undefinedRatio)
      expect(contrast.caution(ratio, zeros, data)?.remedies[0].settings.contrast).toBe('difference')
    expect(contrast.caution(plan, settings, data)).toBeNull()
  })

  it('reads aloud', () => {
    const text = contrast
      .sentence(settings, data)
      .map((part) => part.text)
      .join('')
    expect(text).toBe(
      'Borders of districts by the difference of library loans 2025 per resident, in proportion.',
    )
  })
})
