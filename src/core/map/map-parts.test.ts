import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { readFolio } from '@/core/folio/schema'
import { formOf } from '@/core/data/dataset'
import { createProjection } from '@/core/projection/projection'
import { readStyles, writeStyles } from '@/formats/styles-file/styles-file'
import { degreesText, graticuleLines, proposedInterval } from './graticule/draw'
import { filterProblem, shown } from './shown'
import type { Layer, LayerGroup, MapSpec } from './spec'
import { moveBy, moveOnto, putIntoGroup, removeLayer } from './stack'
import { styleOf, styleRefused, withStyle } from './style'
import { extentOfRows, extentProblem, vantageView } from './vantage'
import { paperTransform } from './view'

const { folio, datasets } = openDemo()
const preparedOf = (id: string) => {
  const found = datasets.get(id)
  if (!found) throw new Error(`There is no dataset ${id}.`)
  return found
}
const layerOf = (mapId: string, id: string): Layer => {
  const layer = folio.maps.find((map) => map.id === mapId)?.layers.find((one) => one.id === id)
  if (!layer) throw new Error(`There is no layer ${id}.`)
  return layer
}

describe('the filter of a layer', () => {
  const districts = preparedOf('districts')
  it('keeps the rows for which it is true, and their shapes', () => {
    const some = shown({ filter: 'population > 50000' }, districts)
    const values = some.dataset.fields.find(({ key }) => key === 'population')?.column
    expect(some.dataset.rowCount).toBeGreaterThan(0)
    expect(some.dataset.rowCount).toBeLessThan(164)
    expect(values?.kind === 'number' && values.values.every((n) => n > 50_000)).toBe(true)
    expect(formOf(some.dataset)).toBe('areas')
    expect(shown({ filter: 'population > 50000' }, districts)).toBe(some)
    expect(shown({ filter: ' ' }, districts)).toBe(districts)
  })
  it('keeps all rows and says why where it cannot be used', () => {
    expect(shown({ filter: 'people > 3' }, districts)).toBe(districts)
    expect(filterProblem({ filter: 'people > 3' }, districts)).toBe('There is no field “people”.')
    expect(filterProblem({ filter: '' }, districts)).toBeNull()
  })
})

describe('the layer stack', () => {
  const stack = () => {
    const layers = ['a', 'b', 'c', 'd'].map((id) => ({ id, groupId: id === 'b' || id === 'c' ? 'g' : null }) as Layer)
    return { layers, groups: [{ id: 'g', name: 'G' } as LayerGroup] }
  }
  const written = ({ layers }: { layers: Layer[] }) => layers.map(({ id, groupId }) => `${id}${groupId ?? ''}`).join(' ')
  it('moves a layer into a group, through it and out again, a step at a time', () => {
    const s = stack()
    const seen = Array.from({ length: 5 }, () => (moveBy(s, 'a', 1), written(s)))
    expect(seen).toEqual(['ag bg cg d', 'bg ag cg d', 'bg cg ag d', 'bg cg a d', 'bg cg d a'])
    moveBy(s, 'a', 1)
    expect(written(s)).toBe('bg cg d a')
  })
  it('puts a layer where another one stands, into its group', () => {
    const s = stack()
    moveOnto(s, 'd', 'b')
    expect(written(s)).toBe('a dg bg cg')
    moveOnto(s, 'b', 'a')
    expect(written(s)).toBe('b a dg cg')
  })
  it('forgets a group that has no layers left', () => {
    const s = stack()
    putIntoGroup(s, 'b', null)
    expect(written(s)).toBe('a cg b d')
    removeLayer(s, 'c')
    expect(s.groups).toEqual([])
    const t = stack()
    putIntoGroup(t, 'a', 'g')
    expect(written(t)).toBe('bg cg ag d')
  })
})

describe('styles', () => {
  const loans = layerOf('loans', 'loans-per-resident')
  it('are taken over by a layer of other data, with fields that it has', () => {
    const change = preparedOf('change')
    const target = { ...layerOf('change', 'change-in-loans'), symbology: { ...layerOf('change', 'change-in-loans').symbology } }
    const next = withStyle(target, styleOf(loans), change)
    expect(next.symbology).toMatchObject({ kind: 'choropleth', settings: { scheme: 'meadow' } })
    expect(next).toMatchObject({ id: target.id, name: target.name, datasetId: target.datasetId })
    expect(styleRefused(styleOf(loans), preparedOf('towns'))).toContain('cannot be shown as choropleth')
  })
  it('take no label with them that was moved by hand, and leave those of the layer', () => {
    const towns = layerOf('loans', 'towns')
    const moved = { ...towns, labels: towns.labels && { ...towns.labels, moved: { Ellow: [1, 2] as [number, number] } } }
    expect(styleOf(moved).labels?.moved).toEqual({})
    expect(withStyle(moved, styleOf(layerOf('orientation', 'seats')), preparedOf('towns')).labels).toMatchObject({ weight: 600, moved: { Ellow: [1, 2] } })
  })
  it('go into a file and come out of it the same', () => {
    const kept = [{ ...styleOf(loans), id: 'one', name: 'Loans' }]
    expect(readStyles(writeStyles(kept), 'x.json')).toEqual(kept)
    expect(() => readStyles('{', 'x.json')).toThrow('it is not JSON')
    expect(() => readStyles('{"format":"keen-styles","version":1,"styles":[]}', 'x.json')).toThrow('at styles')
  })
})

describe('vantages', () => {
  const [map] = folio.maps
  const window = { width: 200, height: 100 }
  it('give their own view, or the one that shows an extent whole', () => {
    const view = { centre: [-28, 49] as [number, number], scaleDenominator: 1e6 }
    expect(vantageView({ id: 'v', name: 'V', of: { by: 'view', view } }, map, window)).toEqual(view)
    const fitted = vantageView({ id: 'v', name: 'V', of: { by: 'extent', extent: [-29, 48, -27, 50] } }, map, window)
    if (!fitted) throw new Error('The extent can be shown.')
    const projection = createProjection(map.projection)
    const to = paperTransform(projection, fitted, { x: 0, y: 0, ...window })
    for (const place of [[-29, 48], [-27, 48], [-27, 50], [-29, 50]] as [number, number][]) {
      const [x, y] = projection.project(...place)
      expect(x * to.mmPerMetre + to.dx).toBeGreaterThan(0)
      expect(x * to.mmPerMetre + to.dx).toBeLessThan(200)
      expect(y * to.mmPerMetre + to.dy).toBeGreaterThan(0)
      expect(y * to.mmPerMetre + to.dy).toBeLessThan(100)
    }
  })
  it('come from rows, and from typed degrees that can be used', () => {
    const towns = preparedOf('towns')
    const one = extentOfRows(towns, Int32Array.of(3))
    const all = extentOfRows(towns, null)
    expect(one && all && one[0] >= all[0] && one[2] <= all[2]).toBe(true)
    expect(extentProblem([-29, 48, -27, 50])).toBeNull()
    expect(extentProblem([-27, 48, -29, 50])).toContain('east side')
    expect(extentProblem([-29, 50, -27, 48])).toContain('north side')
    expect(extentProblem([-29, 48, NaN, 50])).toContain('four sides')
    expect(extentProblem([170, -20, 190, 20])).toBeNull()
  })
})

describe('the graticule', () => {
  const spec: MapSpec['projection'] = { ...folio.maps[0].projection, id: 'equidistant-cylindrical', centre: [0, 0], parallels: [0, 0] }
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
    for (const { pieces } of lines) for (const piece of pieces) for (let i = 2; i < piece.length; i += 2) expect(Math.hypot(piece[i] - piece[i - 2], piece[i + 1] - piece[i - 1])).toBeLessThan(5)
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

describe('a folio of the first version', () => {
  it('has its names of plain points as labels and their rank as a filter', () => {
    const [map] = folio.maps
    const towns = layerOf('loans', 'towns')
    const { id, name, datasetId, remembered, visible, opacity, blend, inLegend } = towns
    const first = { ...folio, version: 1, maps: [{ ...map, layers: [{ id, name, datasetId, remembered, visible, opacity, blend, inLegend, symbology: { kind: 'plain', settings: { ...towns.symbology.settings, label: { field: 'name', family: 'barlow', sizePt: 9, rankField: 'population', atLeast: 5000 } } } }] }] }
    const [{ layers }] = readFolio(first).maps
    expect(layers[0]).toMatchObject({ filter: 'population >= 5000', labels: { text: { by: 'field', field: 'name' }, family: 'barlow', sizePt: 9, rankField: 'population' } })
    expect(first.version).toBe(1)
  })
})
