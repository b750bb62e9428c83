import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { kindData, planOf } from '@/core/map/layer-plan'
import { shownOf } from '@/core/map/shown'
import type { LegendEntry } from './kind'
import { kindIds, kindOf } from './registry'

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
