import { describe, expect, it } from 'vitest'
import { topology } from 'topojson-server'
import type { FeatureCollection } from 'geojson'
import type { GeometryObject } from 'topojson-specification'
import { numberColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { geometryFromTopology } from '@/core/geo/from-topology'
import { projectGeometry } from '@/core/geo/projected'
import { adviseEqualArea } from '@/core/projection/adviser'
import { createProjection } from '@/core/projection/projection'
import { walk, type Path } from '@/core/scene/scene'
import { createFontBook } from '@/core/scene/text'
import type { DrawContext, KindData } from '../kind'
import { colourBy, lines, widthBy } from '.'
import { channels } from '@/core/scene/paint'
import { shadowStrokes } from './draw'
import { moveSideways } from './offset'
import type { LineSettings } from './spec'

const built = topology({
  all: {
    type: 'FeatureCollection',
    features: [0, 1, 2, 3].map((i) => ({
      type: 'Feature',
      properties: {},
      geometry: {
        type: 'LineString',
        coordinates: [
          [10, 50 + i * 0.1],
          [11, 50 + i * 0.1],
        ],
      },
    })),
  } as FeatureCollection,
})
const dataset: Dataset = {
  rowCount: 4,
  geometry: geometryFromTopology(built, built.objects.all as GeometryObject),
  fields: [
    { key: 'vans', column: numberColumn([50, 200, 100, null]) },
    { key: 'delay', column: numberColumn([1, 2, 9, null]) },
  ],
}
const data: KindData = {
  dataset,
  name: 'Routes',
  fieldMeta: (label) => ({ label, unit: '', role: 'total' }),
  datasetOf: () => null,
  datasetIds: [],
}
const by = (change: Partial<LineSettings> = {}): LineSettings => ({
  ...lines.initial(data),
  width: { ...widthBy('vans', data), value: 100, widthMm: 2 },
  ...change,
})
const projection = createProjection(adviseEqualArea([10, 49, 11, 51]))
const context: DrawContext = {
  dataset,
  projection,
  projected: projectGeometry(dataset.geometry, projection),
  to: { mmPerMetre: 1e-3, dx: 0, dy: 0 },
  window: { x: -1e6, y: -1e6, width: 2e6, height: 2e6 },
  fonts: createFontBook(),
  toleranceMm: 0.1,
  datasetOf: () => null,
  featureName: (f) => `route ${f}`,
}
const drawn = (settings: LineSettings): Path[] =>
  [...walk(lines.draw(lines.plan(settings, data), settings, context, null))].filter(
    (node) => node.type === 'path',
  )

describe('lines by a value', () => {
  it('are as wide as their values, the narrowest first, those without one left out', () => {
    expect(drawn(by()).map(({ strokes }) => strokes[0].widthMm)).toEqual([1, 2, 4])
  })

  it('are coloured by another value in classes, and what is not known in a colour of its own', () => {
    const settings = by({
      width: null,
      colour: { ...colourBy('delay'), method: 'manual', manualBreaks: [5] },
    })
    const plan = lines.plan(settings, data)
    expect([...plan.classOf]).toEqual([0, 0, 1, -1])
    expect(
      drawn(settings)
        .map(({ strokes }) => strokes[0].colour)
        .sort(),
    ).toEqual([plan.colours[0], plan.colours[0], plan.colours[1], '#a8a8a8'].sort())
    expect(lines.classification(plan, settings, data, 0)?.result.counts).toEqual([2, 1])
  })

  it('have a casing under all of them', () => {
    const paths = drawn(by({ casing: { colour: '#ffffff', widthMm: 0.5 } }))
    expect(paths.slice(0, 3).map(({ strokes }) => [strokes[0].colour, strokes[0].widthMm])).toEqual([
      ['#ffffff', 2],
      ['#ffffff', 3],
      ['#ffffff', 5],
    ])
  })

  it('have a shade that fades outwards and strokes on top, each a share of the width', () => {
    const settings = by({
      shadow: { colour: '#000000', widthMm: 1.2, opacity: 0.5 },
      over: [{ colour: '#ffffff', share: 0.4, dashed: true }],
    })
    const paths = drawn(settings)
    // Six strokes of shade for each of three lines, the lines, then the strokes on them.
    expect(paths).toHaveLength(6 * 3 + 3 + 3)
    const widths = Array.from({ length: 6 }, (_, i) => paths[3 * i].strokes[0].widthMm)
    widths.slice(1).forEach((width, i) => expect(width).toBeLessThan(widths[i]))
    expect(widths[0]).toBeCloseTo(1 + 2 * 1.2, 9)
    const faint = shadowStrokes({ colour: '#000000', widthMm: 1, opacity: 0.5 }).map(
      ({ colour }) => channels(colour).a,
    )
    expect(1 - faint.reduce((clear, a) => clear * (1 - a), 1)).toBeCloseTo(0.5, 1)
    expect(paths.slice(-3).map(({ strokes }) => [strokes[0].widthMm, strokes[0].dashMm.length])).toEqual([
      [expect.closeTo(0.4, 9), 2],
      [expect.closeTo(0.8, 9), 2],
      [expect.closeTo(1.6, 9), 2],
    ])
  })

  it('have a legend with the widths that they have on the map', () => {
    const plan = lines.plan(by(), data)
    const { items } = lines.legend(plan, by(), data, null)
    expect(items.map(({ label, swatch }) => [label, swatch.stroke?.widthMm])).toEqual(
      plan.marks.map(({ value, widthMm }) => [String(value), widthMm]),
    )
    expect(plan.marks[0]).toEqual({ value: 200, widthMm: 4 })
    expect(lines.plan(by({ legendValues: [75, 150] }), data).marks).toEqual([
      { value: 150, widthMm: 3 },
      { value: 75, widthMm: 1.5 },
    ])
  })
})

describe('a line moved sideways', () => {
  it('keeps its distance along both legs of a corner', () => {
    // East, then south on paper: the right of it is the inside.
    expect(moveSideways([0, 0, 10, 0, 10, 10], 1).map((n) => Number(n.toFixed(6)))).toEqual([
      0, 1, 9, 1, 9, 10,
    ])
    expect(moveSideways([0, 0, 10, 0, 10, 10], -1).map((n) => Number(n.toFixed(6)))).toEqual([
      0, -1, 11, -1, 11, 10,
    ])
  })

  it('does not run away at a hairpin, and leaves out points that are the same', () => {
    const moved = moveSideways([0, 0, 10, 0, 10, 0, 0, 0.01], 1)
    for (let i = 0; i < moved.length; i += 2) expect(Math.hypot(moved[i] - 5, moved[i + 1])).toBeLessThan(12)
  })
})
