import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { numberColumn, textColumn } from '@/core/data/column'
import { makeEntry, plainSource } from '@/core/data/entry'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import { becomingOf } from './becoming'
import { kindData } from './layer-plan'

const { datasets } = openDemo()
const named = (name: string): Prepared => {
  const found = [...datasets.values()].find(({ entry }) => entry.name === name)
  if (!found) throw new Error(`The demo has no ${name}.`)
  return found
}

describe('what data can become', () => {
  it('begins with what fits best, and every one of it can be planned', () => {
    for (const prepared of datasets.values()) {
      const found = becomingOf(prepared)
      expect(found.length, prepared.entry.name).toBeLessThanOrEqual(12)
      expect(found.map(({ fit }) => fit)).toEqual(found.map(({ fit }) => fit).sort((a, b) => b - a))
      for (const { kind, symbology, shows, because } of found) {
        const { plan, settings } = kindOf(kind)
        expect(settings.safeParse(symbology.settings).success, `${prepared.entry.name} ${kind}`).toBe(true)
        expect(`${shows}${because}`).not.toMatch(/undefined|_/)
        if (!kindOf(kind).shapes?.ready) plan(symbology.settings, kindData(prepared))
      }
    }
  })

  it('is a rate before a total for areas, dense points before single ones, kinds of ground before amounts', () => {
    expect(becomingOf(named('Districts'))[0].kind).toBe('choropleth')
    expect(becomingOf(named('Readers')).map(({ kind }) => kind)).toContain('density')
    expect(becomingOf(named('Libraries'))[0].kind).toBe('symbols')
  })

  it('never maps coordinates, codes or years by themselves', () => {
    const rows = 40
    const entry = makeEntry({
      id: 'stations',
      name: 'Stations',
      geometry: 'points',
      source: plainSource('stations', 'stations.csv', 'CSV'),
    })
    const of = (value: (i: number) => number) =>
      numberColumn(Array.from({ length: rows }, (_, i) => value(i)))
    const dataset = {
      rowCount: rows,
      fields: [
        { key: 'latitude', column: of((i) => 48 + i / 50) },
        { key: 'longitude', column: of((i) => -28 + i / 50) },
        { key: 'station_id', column: of((i) => 4001 + i) },
        { key: 'opened', column: of((i) => 1900 + i) },
        { key: 'name', column: textColumn(Array.from({ length: rows }, (_, i) => `Halt ${i}`)) },
      ],
      geometry: {
        kind: 'points' as const,
        coords: Float64Array.from({ length: 2 * rows }, (_, i) => (i % 2 ? 48 : -28) + i / 100),
        featureStarts: Uint32Array.from({ length: rows + 1 }, (_, i) => i),
      },
    }
    const prepared = prepareDatasets([entry], () => dataset).get('stations') as Prepared
    expect(becomingOf(prepared).map(({ kind }) => kind)).toEqual(['plain'])
  })
})
