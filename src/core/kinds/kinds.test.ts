import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { numberColumn } from '@/core/data/column'
import type { FieldMeta } from '@/core/data/field-meta'
import { kindData, planOf } from '@/core/map/layer-plan'
import { shownOf } from '@/core/map/shown'
import type { LegendEntry } from './kind'
import { kindIds, kindOf } from './registry'
import { perCountFor } from './values'

const { folio, datasets } = openDemo()
const layers = folio.maps.flatMap(({ layers }) => layers)

/** A legend with what its samples draw in place of the samples. */
const drawn = (entry: LegendEntry) => ({
  ...entry,
  items: entry.items.map(({ swatch, ...item }) => ({
    ...item,
    swatch: { ...swatch, sample: swatch.sample?.({ width: 8, height: 5 }) },
  })),
})

describe('what is divided', () => {
  const data = (loans: number[], people: number[], unit = 'persons') => ({
    dataset: {
      rowCount: loans.length,
      geometry: { kind: 'none' as const },
      fields: [
        { key: 'loans', column: numberColumn(loans) },
        { key: 'people', column: numberColumn(people) },
      ],
    },
    fieldMeta: (key: string): FieldMeta =>
      key === 'people'
        ? { label: unit === 'km²' ? 'Area' : 'People', unit, role: 'total' }
        : { label: 'Loans', unit: '', role: 'total' },
  })
  it('is written for as many as make most values one or more', () => {
    expect(perCountFor('loans', 'people', data([5000, 9000, 20_000], [1000, 1000, 1000]))).toBe(1)
    expect(perCountFor('loans', 'people', data([5, 9, 20], [1000, 2000, 1000]))).toBe(1000)
    expect(perCountFor('loans', 'people', data([-5, -9, 20], [1e6, 2e6, 1e6]))).toBe(1_000_000)
    expect(perCountFor('loans', 'people', data([1, 2, 3], [90, 80, 70], 'km²'))).toBe(100)
    // Nothing to go by: as it is.
    expect(perCountFor('loans', 'people', data([0, NaN, 3], [1, 1, 0]))).toBe(1)
    expect(perCountFor('loans', 'people', data([1, 1, 1], [1e12, 1e12, 1e12]))).toBe(1_000_000)
  })
})

describe('every kind', () => {
  for (const id of kindIds)
    it(`${id} plans in plain data, which crosses to another thread and says the same there`, () => {
      const layer = layers.find(({ symbology }) => symbology.kind === id)
      const prepared = layer && shownOf(layer, datasets)
      if (!layer || !prepared) throw new Error(`The demo shows no ${id}.`)
      const kind = kindOf(id)
      const { settings } = layer.symbology
      const plan = planOf(layer, prepared)
      const there = structuredClone(plan)
      expect(there).toEqual(plan)
      const data = kindData(prepared)
      expect(drawn(kind.legend(there, settings, data, null))).toEqual(
        drawn(kind.legend(plan, settings, data, null)),
      )
      expect(kind.chip(there, settings)).toEqual(kind.chip(plan, settings))
      expect(kind.settings.parse(settings)).toEqual(settings)
      expect(
        kind
          .sentence(settings, data)
          .map(({ text }) => text)
          .join('').length,
      ).toBeGreaterThan(10)
    })
})
