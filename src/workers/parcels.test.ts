import { describe, expect, it } from 'vitest'
import { numberColumn } from '@/core/data/column'
import type { Raster } from '@/core/data/raster'
import type { Chain } from '@/core/data/prepare'
import type { Preparing } from '@/core/data/steps/step'
import { createReceiver, createSender, type Parcel } from './parcels'

const points = {
  kind: 'points' as const,
  coords: Float64Array.of(1, 2, 3, 4),
  featureStarts: Uint32Array.of(0, 1, 2),
}
const source: Preparing = {
  datasetId: 'd',
  dataset: { rowCount: 2, fields: [{ key: 'a', column: numberColumn([1, 2]) }], geometry: points },
  origins: new Map(),
  made: new Map(),
}
const derived: Preparing = {
  ...source,
  dataset: {
    ...source.dataset,
    fields: [...source.dataset.fields, { key: 'b', column: numberColumn([3, 4]) }],
  },
}
const chain = (result: Preparing, stages: Preparing[] = []): Chain => ({
  result,
  stages,
  reports: [{ stepId: 's', rows: 2, problem: null, remark: null, note: null }],
})

/** As a message between threads arrives: a copy of everything in it. */
const posted = (parcel: Parcel): Parcel => structuredClone(parcel)

describe('prepared datasets between threads', () => {
  it('arrive as they were', () => {
    const got = createReceiver()(posted(createSender()(new Map([['d', chain(derived, [source, derived])]]))))
    expect(got.get('d')).toEqual(chain(derived, [source, derived]))
  })

  it('are sent once: a new field costs that field, and what was there keeps its identity', () => {
    const [send, receive] = [createSender(), createReceiver()]
    const before = receive(posted(send(new Map([['d', chain(source)]])))).get('d')
    const parcel = send(new Map([['d', chain(derived)]]))
    expect([...parcel.pieces.values()]).toEqual([derived.dataset.fields[1].column])
    const after = receive(posted(parcel)).get('d')
    expect(after?.result.dataset).toEqual(derived.dataset)
    expect(after?.result.dataset.geometry).toBe(before?.result.dataset.geometry)
    expect(after?.result.dataset.fields[0].column).toBe(before?.result.dataset.fields[0].column)
    expect(receive(posted(send(new Map([['d', chain(derived)]])))).get('d')?.result).toBe(after?.result)
  })

  it('are sent again after they were let go', () => {
    const [send, receive] = [createSender(), createReceiver()]
    receive(posted(send(new Map([['d', chain(source)]]))))
    expect(receive(posted(send(new Map()))).size).toBe(0)
    const parcel = send(new Map([['d', chain(source)]]))
    expect(parcel.pieces.size).toBe(2)
    expect(receive(posted(parcel)).get('d')?.result.dataset).toEqual(source.dataset)
  })

  it('have the fine cells of rasters read on each side by whoever can, once for all stages, if they can be read at all', () => {
    const raster: Raster = {
      ...{ crs: '', columns: 1, rows: 1, bands: 1, transform: Float64Array.of(0, 1, 0, 0, 0, -1) },
      ...{ values: Float32Array.of(5), edge: new Float64Array(8), fileSize: Uint32Array.of(2, 2) },
      fine: { id: 'a', side: 256, levels: 1, digest: '', bytes: 9 },
    }
    const withRaster = (one: Raster): Preparing => ({
      ...source,
      dataset: { ...source.dataset, raster: one },
    })
    const over = (one: Raster) => {
      // From the thread that prepares to the page, and from there to the one that draws.
      const stages = [withRaster(one), withRaster(one)]
      const onPage = createReceiver()(posted(createSender()(new Map([['d', chain(stages[1], stages)]]))))
      const drawing = createReceiver(() => () => Float32Array.of(7))
      const there = drawing(posted(createSender()(onPage))).get('d')
      return { page: onPage.get('d')?.result.dataset.raster, there }
    }
    const { page, there } = over({ ...raster, readTile: () => Float32Array.of(3) })
    expect(page?.readTile).toBeUndefined()
    expect(there?.result.dataset.raster?.readTile?.({ level: 0, band: 0, column: 0, row: 0 })).toEqual(
      Float32Array.of(7),
    )
    expect(there?.stages[0].dataset.raster).toBe(there?.stages[1].dataset.raster)
    expect(over(raster).there?.result.dataset.raster?.readTile).toBeUndefined()
  })
})
