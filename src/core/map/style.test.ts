import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { readStyles, writeStyles } from '@/formats/styles-file/styles-file'
import type { Layer } from './spec'
import { styleOf, styleRefused, withStyle } from './style'

const { folio, datasets } = openDemo()
const preparedOf = (id: string) => {
  const dataset = datasets.get(id)
  if (!dataset) throw new Error(`There is no dataset ${id}.`)
  return dataset
}
const layerOf = (mapId: string, id: string): Layer => {
  const layer = folio.maps.find((map) => map.id === mapId)?.layers.find((one) => one.id === id)
  if (!layer) throw new Error(`There is no layer ${id}.`)
  return layer
}

describe('styles', () => {
  const loans = layerOf('loans', 'loans-per-resident')
  it('are taken over by a layer of other data, with fields that it has', () => {
    const change = preparedOf('change')
    const target = {
      ...layerOf('change', 'change-in-loans'),
      symbology: { ...layerOf('change', 'change-in-loans').symbology },
    }
    const next = withStyle(target, styleOf(loans), change)
    expect(next.symbology).toMatchObject({ kind: 'choropleth', settings: { scheme: 'meadow' } })
    expect(next).toMatchObject({ id: target.id, name: target.name, datasetId: target.datasetId })
    expect(styleRefused(styleOf(loans), preparedOf('towns'))).toContain('cannot be shown as choropleth')
  })
  it('take no label with them that was moved by hand, and leave those of the layer', () => {
    const towns = layerOf('loans', 'towns')
    const moved = {
      ...towns,
      labels: towns.labels && { ...towns.labels, moved: { Ellow: [1, 2] as [number, number] } },
    }
    expect(styleOf(moved).labels?.moved).toEqual({})
    expect(
      withStyle(moved, styleOf(layerOf('orientation', 'seats')), preparedOf('towns')).labels,
    ).toMatchObject({ weight: 600, moved: { Ellow: [1, 2] } })
  })
  it('go into a file and come out of it the same', () => {
    const kept = [{ ...styleOf(loans), id: 'one', name: 'Loans' }]
    expect(readStyles(writeStyles(kept), 'x.json')).toEqual(kept)
    expect(() => readStyles('{', 'x.json')).toThrow('it is not complete JSON')
    expect(() => readStyles('{"format":"keen-styles","version":1,"styles":[]}', 'x.json')).toThrow(
      'at styles',
    )
  })
})
