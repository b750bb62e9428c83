import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import type { FieldMeta } from '@/core/data/field-meta'
import { adviseEqualArea } from '@/core/projection/adviser'
import { createProjection } from '@/core/projection/projection'
import { outlineBox } from '@/core/scene/outline'
import { walk, type Path } from '@/core/scene/scene'
import { createFontBook } from '@/core/scene/text'
import type { DrawContext, KindData } from '../kind'
import { symbols } from '.'
import { overlapShare, shrinkTo } from '../marks/overlap'
import { roundMarks } from '../marks/sizes'
import { flannery, powerOf, sizeScale } from './scale'
import { extents, plainShapes, symbolOutline } from '../marks/shapes'
import type { SymbolSettings } from './spec'

const dataset: Dataset = {
  rowCount: 6,
  geometry: {
    kind: 'points',
    coords: Float64Array.from([10, 50, 10.2, 50, 10.4, 50, 10.6, 50, 10.8, 50, 11, 50]),
    featureStarts: Uint32Array.from([0, 1, 2, 3, 4, 5, 6]),
  },
  fields: [
    { key: 'loans', column: numberColumn([100, 400, 1600, -400, 0, null]) },
    { key: 'rate', column: numberColumn([1, 2, 3, 4, 5, null]) },
    { key: 'type', column: textColumn(['branch', 'central', 'branch', 'branch', 'van', null]) },
  ],
}
const roles = new Map<string, FieldMeta['role']>([
  ['rate', 'rate'],
  ['type', 'category'],
])
const data: KindData = {
  dataset,
  name: 'Libraries',
  fieldMeta: (key) => ({
    label: key,
    unit: '',
    role: roles.get(key) ?? 'total',
  }),
  datasetOf: () => null,
  datasetIds: [],
}
const by = (change: Partial<SymbolSettings> = {}): SymbolSettings => ({
  ...symbols.initial(data),
  field: 'loans',
  anchor: { by: 'value', value: 400, sizeMm: 6 },
  ...change,
})
const plan = (change: Partial<SymbolSettings> = {}) => symbols.plan(by(change), data)
const projection = createProjection(adviseEqualArea([10, 49, 11, 51]))
const context: DrawContext = {
  dataset,
  projection,
  projected: dataset.geometry,
  to: { mmPerMetre: 1e-3, dx: 0, dy: 0 },
  window: { x: -1e6, y: -1e6, width: 2e6, height: 2e6 },
  fonts: createFontBook(),
  toleranceMm: 0.1,
  datasetOf: () => null,
  featureName: (f) => `library ${f}`,
}
const drawn = (change: Partial<SymbolSettings> = {}): Path[] =>
  [...walk(symbols.draw(plan(change), by(change), context, null))].filter((node) => node.type === 'path')

describe('sizes', () => {
  it('are true areas: four times the value is twice the width', () => {
    expect([...plan().sizes]).toEqual([3, 6, 12, 6, 0, 0])
  })

  it('follow Flannery’s power where they are to look right, and the value itself where heights tell', () => {
    const { sizes } = plan({ scaling: 'perceptual', exponent: flannery })
    expect(sizes[2] / sizes[1]).toBeCloseTo(4 ** 0.5716, 9)
    expect([...plan({ scaling: 'height' }).sizes].slice(0, 3)).toEqual([1.5, 6, 24])
    expect(powerOf({ shape: 'bar', scaling: 'area', exponent: 0.5 })).toBe(1)
  })

  it('keep to the ends where those are given, and to the least size', () => {
    const { sizes } = plan({ anchor: { by: 'ends', smallestMm: 2, largestMm: 10 } })
    expect([sizes[0], sizes[2]]).toEqual([2, 10])
    expect(plan({ anchor: { by: 'value', value: 1e9, sizeMm: 6 }, leastMm: 0.8 }).sizes[0]).toBe(0.8)
  })

  it('in classes are one for each class, growing evenly', () => {
    const graded = plan({
      graded: true,
      method: 'manual',
      manualBreaks: [200, 1000],
      anchor: { by: 'ends', smallestMm: 2, largestMm: 8 },
    })
    expect(graded.grades?.sizesMm).toEqual([2, 5, 8])
    expect([...graded.sizes].slice(0, 3)).toEqual([2, 5, 8])
  })
})

describe('symbols', () => {
  it('are drawn from the largest to the smallest, zero and missing values not at all', () => {
    const boxes = drawn().map(({ outline }) => Number((outlineBox(outline)?.width ?? 0).toFixed(6)))
    expect(boxes).toHaveLength(4)
    expect(boxes).toEqual([...boxes].sort((a, b) => b - a))
    expect(boxes[0]).toBeCloseTo(12, 6)
  })

  it('show values under zero in another way', () => {
    const hollow = drawn({ negative: { fill: '#123456', hollow: true } }).find(({ fill }) => fill === null)
    expect(hollow?.strokes[0].colour).toBe('#123456')
    expect(
      drawn({ negative: { fill: '#123456', hollow: false }, opacity: 1 }).some(
        ({ fill }) => fill?.type === 'solid' && fill.colour === '#123456',
      ),
    ).toBe(true)
  })

  it('have their area and reach as it is told of them', () => {
    for (const shape of plainShapes.filter((one) => one !== 'bar')) {
      const box = outlineBox(symbolOutline(shape, 0, { y: 0, sizeMm: 10, barWidthMm: 1 }))
      const [left, up, right, down] = extents[shape].box.map((share) => share * 10)
      expect(box?.x, shape).toBeCloseTo(-left, 1)
      expect(box?.y, shape).toBeCloseTo(-up, 1)
      expect(box?.width, shape).toBeCloseTo(left + right, 1)
      expect(box?.height, shape).toBeCloseTo(up + down, 1)
    }
    const bar = outlineBox(symbolOutline('bar', 5, { y: 5, sizeMm: 10, barWidthMm: 2 }))
    expect(bar).toEqual({ x: 4, y: -5, width: 2, height: 10 })
  })

  it('are coloured by a second field in classes, or by a category, and what is not known in a colour of its own', () => {
    const byRate = by({
      colour: {
        ...by(),
        by: 'value',
        field: 'rate',
        per: null,
        perCount: 1,
        method: 'manual',
        manualBreaks: [3],
        colouring: { scheme: 'inlet', ramp: null, reversed: false, trim: [0, 1] },
      },
    })
    const rated = symbols.plan(byRate, data)
    expect([...(rated.hues?.of ?? [])]).toEqual([0, 0, 1, 1, 1, -1])
    expect(symbols.classings(byRate)).toHaveLength(1)
    const typed = plan({ colour: { by: 'category', field: 'type', colours: { van: '#010203' } } })
    expect(typed.hues?.list.map(({ label, count }) => [label, count])).toEqual([
      ['branch', 3],
      ['central', 1],
      ['van', 1],
    ])
    expect(typed.hues?.list[2].colour).toBe('#010203')
    expect(typed.hues?.of[5]).toBe(-1)
  })
})

describe('the size legend', () => {
  it('has round values within the range, with the sizes that they have on the map', () => {
    const settings = by()
    const made = symbols.plan(settings, data)
    const { sizes } = symbols.legend(made, settings, data, null)
    expect(made.marks.map(({ value }) => value)).toEqual([1000, 200])
    for (const { value, sizeMm } of made.marks) expect(sizeMm).toBeCloseTo(6 * Math.sqrt(value / 400), 9)
    expect(sizes?.marks.map(({ sizeMm }) => sizeMm)).toEqual(made.marks.map(({ sizeMm }) => sizeMm))
  })

  it('never is blank, and its values can be told apart', () => {
    for (const [least, largest] of [
      [1, 1],
      [3, 4],
      [0.02, 70_000],
      [999, 1001],
      [1e-7, 3e-6],
    ] as const) {
      const size = sizeScale(
        {
          scaling: 'area',
          exponent: 0.5,
          shape: 'circle',
          leastMm: 0,
          anchor: { by: 'value', value: largest, sizeMm: 10 },
        },
        { least, largest },
      )
      const marks = roundMarks({ least, largest }, size)
      expect(marks.length, `${least} to ${largest}`).toBeGreaterThan(0)
      marks.slice(1).forEach((value, i) => expect(size(value)).toBeLessThan(0.7 * size(marks[i])))
      if (largest > 1.5 * least)
        for (const value of marks) expect(value >= least && value <= largest).toBe(true)
    }
  })

  it('takes values that are typed', () => {
    expect(plan({ legend: { form: 'nested', values: [50, 900] } }).marks.map(({ value }) => value)).toEqual([
      900, 50,
    ])
  })
})

describe('overlap', () => {
  it('is the share of the area under others', () => {
    expect(
      overlapShare([
        { x: 0, y: 0, r: 5 },
        { x: 20, y: 0, r: 5 },
      ]),
    ).toBe(0)
    // The small disc lies wholly on the large one: a quarter of its area, a fifth of both.
    expect(
      overlapShare([
        { x: 0, y: 0, r: 2 },
        { x: 0, y: 0, r: 1 },
      ]),
    ).toBeCloseTo(0.2, 1)
    expect(
      overlapShare([
        { x: 0, y: 0, r: 3 },
        { x: 0, y: 0, r: 3 },
      ]),
    ).toBeCloseTo(0.5, 2)
  })

  it('of discs without number on one place leaves one of them to be seen', () => {
    const pile = Array.from({ length: 20_000 }, () => ({ x: 3, y: 4, r: 5 }))
    expect(overlapShare(pile)).toBeCloseTo(1 - 1 / 20_000, 6)
    // Two that overlap by a lens: each hides 39.1 % of the other at the distance of a radius.
    const lens = 2 * Math.acos(0.5) - Math.sin(2 * Math.acos(0.5))
    const two = [0, 2].map((x) => ({ x, y: 0, r: 2 }))
    expect(overlapShare(two)).toBeCloseTo(lens / (2 * Math.PI), 2)
  })

  it('is brought under a limit by smaller symbols', () => {
    const crowd = Array.from({ length: 40 }, (_, i) => ({ x: (i % 8) * 5, y: Math.floor(i / 8) * 5, r: 5 }))
    const factor = shrinkTo(crowd, 0.1)
    expect(factor).toBeLessThan(0.8)
    expect(overlapShare(crowd.map((disc) => ({ ...disc, r: disc.r * factor })))).toBeLessThanOrEqual(0.1)
    expect(shrinkTo([{ x: 0, y: 0, r: 5 }], 0.1)).toBe(1)
  })
})

describe('symbols pushed apart', () => {
  const displace = { gapMm: 0.5, leader: { colour: '#333333', widthPt: 0.5 } }
  const near: DrawContext = { ...context, to: { mmPerMetre: 1e-4, dx: 0, dy: 0 } }
  it('keep their sizes and order, with a line and a dot at the place of each that moved', () => {
    const settings = by({ displace })
    const nodes = symbols.draw(symbols.plan(settings, data), settings, near, null)
    expect(nodes.map((node) => node.type === 'group' && node.name)).toEqual(['leaders', 'symbols'])
    const boxes = [...walk([nodes[1]])].flatMap((node) =>
      node.type === 'path' ? [outlineBox(node.outline)] : [],
    )
    expect(boxes.map((box) => Number(box?.width.toFixed(3)))).toEqual([12, 6, 6, 3])
    boxes.forEach((a, i) => {
      for (const b of boxes.slice(i + 1))
        if (a && b)
          expect(
            Math.hypot(a.x + a.width / 2 - b.x - b.width / 2, a.y + a.height / 2 - b.y - b.height / 2),
          ).toBeGreaterThan((a.width + b.width) / 2)
    })
  })
  it('move with the map when it is panned', () => {
    const settings = by({ displace })
    const made = symbols.plan(settings, data)
    const [here, there] = [near, { ...near, to: { ...near.to, dx: 30, dy: -10 } }].map((at) =>
      symbols.marks(made, settings, at),
    )
    here.forEach(({ x, y }, i) => {
      expect(there[i].x - x).toBeCloseTo(30, 9)
      expect(there[i].y - y).toBeCloseTo(-10, 9)
    })
  })
})

describe('pictures as symbols', () => {
  it('are as high as the size, with their holes', () => {
    const paths = drawn({ shape: 'picture', picture: { from: 'set', id: 'van' } })
    expect(paths[0].fillRule).toBe('evenodd')
    expect(outlineBox(paths[0].outline)?.height).toBeCloseTo(12, 1)
    expect(symbols.sentence(by({ shape: 'picture' }), data).some(({ text }) => text === 'pictures')).toBe(
      true,
    )
  })
})
