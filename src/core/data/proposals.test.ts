import { describe, expect, it } from 'vitest'
import { geometryFromShapes } from '@/core/geo/shapes'
import { numberColumn, textColumn } from './column'
import type { Dataset } from './dataset'
import { makeEntry, plainSource, type DatasetEntry } from './entry'
import { prepareDatasets } from './prepare'
import { proposalsFor } from './proposals'
import type { PrepStep } from './steps/registry'

const square = (x: number): GeoJSON.Geometry => ({
  type: 'Polygon',
  coordinates: [
    [
      [x, 0],
      [x + 1, 0],
      [x + 1, 1],
      [x, 1],
      [x, 0],
    ],
  ],
})
const contents: Record<string, Dataset> = {
  areas: {
    rowCount: 3,
    geometry: geometryFromShapes([0, 1, 2].map(square)),
    fields: [{ key: 'code', column: textColumn(['A', 'B', 'C']) }],
  },
  returns: {
    rowCount: 3,
    geometry: { kind: 'none' },
    fields: [
      { key: 'district_code', column: textColumn(['B', 'C', 'X']) },
      { key: 'population', column: numberColumn([5, 6, 7]) },
      { key: 'share_online', column: numberColumn([5, 6, 7]) },
    ],
  },
  elsewhere: {
    rowCount: 3,
    geometry: { kind: 'none' },
    fields: [{ key: 'code', column: textColumn(['Q', 'R', 'S']) }],
  },
  loans: {
    rowCount: 4,
    geometry: { kind: 'none' },
    fields: [
      { key: 'from_code', column: textColumn(['A', 'A', 'B', 'C']) },
      { key: 'to_code', column: textColumn(['B', 'C', 'A', 'B']) },
      { key: 'books', column: numberColumn([5, 6, 7, 8]) },
    ],
  },
  stops: {
    rowCount: 1,
    geometry: geometryFromShapes([{ type: 'Point', coordinates: [0.5, 0.5] }]),
    fields: [],
  },
}
const join: PrepStep = {
  type: 'join',
  id: 'j',
  on: true,
  settings: {
    datasetId: 'returns',
    keys: [{ key: 'code', otherKey: 'district_code' }],
    mended: {},
    accepts: [],
    several: 'first',
    figures: [],
  },
}
const entryOf = (key: string, from: Record<string, Dataset>, steps: PrepStep[] = []): DatasetEntry =>
  makeEntry({
    id: key,
    name: key,
    geometry: from[key].geometry.kind,
    source: plainSource(key, '', ''),
    steps,
  })
const proposals = (id: string, steps: PrepStep[] = [], onMaps: ReadonlySet<string> = new Set()) => {
  const entries = Object.keys(contents).map((key) => entryOf(key, contents, key === 'areas' ? steps : []))
  const all = prepareDatasets(entries, (key) => contents[key] ?? null)
  const current = all.get(id)
  return current ? proposalsFor(current, all, onMaps) : []
}

describe('what to do next', () => {
  it('is to join the table whose codes are those of the areas, from either side', () => {
    const expected = [
      {
        does: 'join',
        into: 'areas',
        table: 'returns',
        key: 'code',
        otherKey: 'district_code',
        matched: 2,
        of: 3,
        ways: [],
        mended: {},
      },
    ]
    expect(proposals('areas')).toEqual(expected)
    expect(proposals('returns')).toEqual(expected)
    expect(proposals('elsewhere')).toEqual([])
  })

  it('finds keys by their values, whatever they are said to measure, and codes before names', () => {
    const more: Record<string, Dataset> = {
      counties: {
        rowCount: 5,
        geometry: geometryFromShapes([0, 1, 2, 3, 4].map(square)),
        fields: [
          { key: 'GEOID', column: textColumn(['01001', '01003', '01005', '02013', '02016']) },
          { key: 'NAME', column: textColumn(['Alb', 'Bren', 'Cal', 'Dor', 'Eld']) },
        ],
      },
      rents: {
        rowCount: 5,
        geometry: { kind: 'none' },
        fields: [
          { key: 'row', column: numberColumn([1, 2, 3, 4, 5]) },
          { key: 'place', column: numberColumn([1001, 1003, 1005, 2013, 2016]) },
          { key: 'NAME', column: textColumn(['Alb', 'Bren', 'Cal', 'Dor', 'Eld']) },
          { key: 'PCT_RENT', column: numberColumn([1.5, 2.5, 3.5, 4.5, 5.5]) },
        ],
      },
    }
    const entries = Object.keys(more).map((key) => entryOf(key, more))
    const all = prepareDatasets(entries, (key) => more[key] ?? null)
    const rents = all.get('rents')
    expect(rents && proposalsFor(rents, all)).toEqual([
      {
        does: 'join',
        ...{
          into: 'counties',
          table: 'rents',
          key: 'GEOID',
          otherKey: 'place',
          matched: 5,
          of: 5,
          mended: {},
        },
        ways: [{ kind: 'loose', count: 5, example: ['01001', '1001'] }],
      },
    ])
  })

  it('is to accept a way in which keys of a join that are left over would match', () => {
    const loose: Dataset = {
      ...contents.returns,
      fields: [{ key: 'district_code', column: textColumn(['a', 'B', 'c']) }, contents.returns.fields[1]],
    }
    const all = prepareDatasets(
      Object.keys(contents).map((key) => entryOf(key, contents, key === 'areas' ? [join] : [])),
      (key) => (key === 'returns' ? loose : (contents[key] ?? null)),
    )
    const areas = all.get('areas')
    expect(areas && proposalsFor(areas, all)[0]).toMatchObject({
      does: 'mend',
      kind: 'loose',
      count: 2,
      example: ['A', 'a'],
    })
  })

  it('is then to map what came in, a share rather than a total', () => {
    expect(proposals('areas', [join])[0]).toEqual({ does: 'map', datasetId: 'areas', field: 'share_online' })
  })

  it('is not a map of what some map shows already', () => {
    const shown = (...onMaps: string[]) => proposals('areas', [join], new Set(onMaps)).map(({ does }) => does)
    expect(shown()).toContain('map')
    expect(shown('areas')).not.toContain('map')
    const loans = proposals('loans').map(({ does }) => does)
    expect(loans).toContain('flows')
    expect(proposals('loans', [], new Set(['loans'])).map(({ does }) => does)).not.toContain('flows')
  })

  it('is to draw a table that leads from place to place as flows, never to join it', () => {
    expect(proposals('loans')).toEqual([
      { does: 'flows', table: 'loans', places: 'areas', matched: 4, of: 4 },
    ])
    expect(proposals('areas').filter((one) => one.does === 'join' && one.table === 'loans')).toEqual([])
  })

  it('is for areas to count the points that came in with them, or to show what is on no map', () => {
    expect(proposals('areas', [join])).toContainEqual({ does: 'count', areas: 'areas', points: 'stops' })
  })

  it('is to count points in areas', () => {
    expect(proposals('stops')).toEqual([{ does: 'count', areas: 'areas', points: 'stops' }])
  })
})
