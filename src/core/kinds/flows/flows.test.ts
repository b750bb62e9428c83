import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { adviseEqualArea } from '@/core/projection/adviser'
import { createProjection } from '@/core/projection/projection'
import { walk, type Path } from '@/core/scene/scene'
import { createFontBook } from '@/core/scene/text'
import type { DrawContext, KindData } from '../kind'
import { Classing } from '@/core/classify/spec'
import { flows } from '.'
import { flowShape } from './draw'
import { widthOf } from './plan'
import type { FlowSettings } from './spec'

const table: Dataset = {
  rowCount: 6,
  geometry: { kind: 'none' },
  fields: [
    { key: 'origin', column: textColumn(['a', 'b', 'a', 'c', 'a', 'x']) },
    { key: 'destination', column: textColumn(['b', 'a', 'c', 'a', 'a', 'a']) },
    { key: 'loans', column: numberColumn([1000, 250, 40, 500, 90, 30]) },
  ],
}
const towns: Dataset = {
  rowCount: 3,
  geometry: {
    kind: 'points',
    coords: Float64Array.from([10, 50, 11, 50, 10, 51]),
    featureStarts: Uint32Array.from([0, 1, 2, 3]),
  },
  fields: [
    { key: 'code', column: textColumn(['a', 'b', 'c']) },
    { key: 'region', column: textColumn(['west', 'east', 'west']) },
  ],
}
const data: KindData = {
  dataset: table,
  name: 'Loans between towns',
  fieldMeta: (label) => ({ label, unit: '', role: 'total' }),
  datasetOf: (id) =>
    new Map([
      ['towns', towns],
      ['flows', table],
    ]).get(id) ?? null,
  datasetIds: ['flows', 'towns'],
}
const by = (change: Partial<FlowSettings> = {}): FlowSettings => ({
  ...flows.initial(data),
  anchor: { value: 1000, widthMm: 4 },
  leastMm: 0.2,
  ...change,
})
const plan = (change: Partial<FlowSettings> = {}) => flows.plan(by(change), data)
const projection = createProjection(adviseEqualArea([10, 50, 11, 51]))
const context: DrawContext = {
  dataset: table,
  projection,
  projected: table.geometry,
  to: { mmPerMetre: 1e-3, dx: 0, dy: 0 },
  window: { x: -1e6, y: -1e6, width: 2e6, height: 2e6 },
  fonts: createFontBook(),
  toleranceMm: 0.1,
  datasetOf: data.datasetOf,
  featureName: (row) => `flow ${row}`,
}
const cautionOf = (of: FlowSettings, from: KindData) => flows.caution(flows.plan(of, from), of, from)

it('show the widths of typed values in their legend, the widest first', () => {
  const settings = by({ legendValues: [100, 750] })
  expect(
    flows
      .legend(flows.plan(settings, data), settings, data, null)
      .items.slice(0, 2)
      .map(({ label, swatch }) => [label, swatch.stroke?.widthMm]),
  ).toEqual([
    ['750', 3],
    ['100', 0.4],
  ])
})

describe('flows in classes', () => {
  const graded = {
    ...Classing.parse({ method: 'manual', classes: 3, manualBreaks: [200, 600], rounded: false }),
  }
  it('have one width for each class, evenly up to the widest', () => {
    const made = plan({ graded })
    expect(made.grades?.widthsMm.map((mm) => Number(mm.toFixed(4)))).toEqual([1.3333, 2.6667, 4])
    expect(made.flows.map(({ value, widthMm }) => [value, Number(widthMm.toFixed(4))])).toEqual([
      [40, 1.3333],
      [250, 2.6667],
      [500, 2.6667],
      [1000, 4],
    ])
  })
  it('have their classes on the bench and in the legend, the widest first', () => {
    const settings = by({ graded })
    const made = flows.plan(settings, data)
    expect(flows.classings(settings)).toHaveLength(1)
    expect(flows.classification(made, settings, data, 0)?.result.breaks.slice(1, -1)).toEqual([200, 600])
    expect(
      flows
        .legend(made, settings, data, null)
        .items.slice(0, 3)
        .map(({ swatch }) => Number(swatch.stroke?.widthMm.toFixed(4))),
    ).toEqual([4, 2.6667, 1.3333])
    expect(
      flows
        .sentence(settings, data)
        .map(({ text }) => text)
        .join(''),
    ).toContain('in three classes by')
    expect(flows.classings(by())).toEqual([])
  })
})

describe('flows', () => {
  it('find the places that their rows name', () => {
    expect(flows.initial(data)).toMatchObject({
      from: 'origin',
      to: 'destination',
      field: 'loans',
      places: { datasetId: 'towns', key: 'code' },
    })
    expect(flows.accepts(data)).toBe(true)
    expect(flows.accepts({ ...data, datasetIds: ['flows'] })).toBe(false)
  })

  it('are as wide as their values, the smallest drawn first', () => {
    const { flows: flows } = plan()
    expect(flows.map(({ value }) => value)).toEqual([40, 250, 500, 1000])
    expect(flows.map(({ widthMm }) => widthMm)).toEqual([0.2, 1, 2, 4])
    expect(widthOf(by(), 2000) / widthOf(by(), 1000)).toBe(2)
  })

  it('say what is left out: under the threshold, within a place, without one', () => {
    expect(plan({ threshold: 100 })).toMatchObject({ left: 1, within: 1, unplaced: 1 })
    expect(cautionOf(by(), data)?.words).toBe('1 rows name places that are not there.')
    expect(plan({ places: null }).flows).toEqual([])
  })

  it('are coloured by direction, and by the region that they start in', () => {
    const direction = plan({ colour: { by: 'direction', east: '#ff0000', west: '#0000ff' } })
    expect(direction.flows.find(({ row }) => row === 0)?.colour).toBe('#ff0000')
    expect(direction.flows.find(({ row }) => row === 1)?.colour).toBe('#0000ff')
    const region = plan({ colour: { by: 'region', field: 'region', colours: { east: '#010203' } } })
    expect(region.hues.map(({ label }) => label)).toEqual(['east', 'west'])
    expect(region.flows.find(({ row }) => row === 1)?.colour).toBe('#010203')
  })

  it('have a legend with the widths that they have on the map', () => {
    const made = plan()
    const items = flows.legend(made, by(), data, null).items
    expect(items.map(({ label }) => label)).toEqual([
      '1,000',
      '500',
      '200',
      // One flow is so small that its width is no longer in proportion.
      expect.stringMatching(/^under [\d.]+: all of this width$/),
    ])
    made.marks.forEach(({ widthMm }, i) => expect(items[i].swatch.stroke?.widthMm).toBeCloseTo(widthMm, 9))
    const finer = by({ leastMm: 0 })
    expect(flows.legend(flows.plan(finer, data), finer, data, null).items).toHaveLength(3)
  })

  it('are drawn as curves of their width, each with a head', () => {
    const paths = [...walk(flows.draw(plan(), by(), context, null))].filter(
      (node): node is Path => node.type === 'path',
    )
    expect(paths.filter(({ strokes }) => strokes.length).map(({ strokes }) => strokes[0].widthMm)).toEqual([
      0.2, 1, 2, 4,
    ])
    expect(paths.filter(({ fill }) => fill)).toHaveLength(4)
    expect(
      [...walk(flows.draw(plan(), by({ arrows: false }), context, null))].filter(
        (node) => node.type === 'path' && node.fill,
      ),
    ).toHaveLength(0)
  })
})

describe('the shape of a flow', () => {
  const middle = (from: [number, number], to: [number, number], bend: number): [number, number] => {
    const { line } = flowShape(from, to, { widthMm: 1, bend, arrows: false })
    const c = line.kind === 'curves' ? line.coords : new Float64Array(8)
    return [0, 1].map((axis) => (c[axis] + 3 * c[2 + axis] + 3 * c[4 + axis] + c[6 + axis]) / 8) as [
      number,
      number,
    ]
  }

  it('bends to its right by a share of its length, so that both ways are seen', () => {
    const [there, back] = [middle([0, 0], [10, 0], 0.2), middle([10, 0], [0, 0], 0.2)]
    // Eastward on paper the right is down.
    expect(there[1]).toBeCloseTo(2, 6)
    expect(back[1]).toBeCloseTo(-2, 6)
    expect(middle([0, 0], [10, 0], 0)).toEqual([5, 0])
  })

  it('ends at the place with the tip of its head', () => {
    const { line, head } = flowShape([0, 0], [30, 0], { widthMm: 2, bend: 0, arrows: true })
    expect(head?.slice(0, 2)).toEqual([30, 0])
    const c = line.kind === 'curves' ? line.coords : new Float64Array(8)
    expect(c[6]).toBeCloseTo(30 - 3.8, 6)
  })
})
