import { describe, expect, it } from 'vitest'
import { outlineBox, type Outline } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { path, walk } from '@/core/scene/scene'
import type { TextStyle } from '@/core/scene/text'
import { fontBookOf } from '@/render/font-files'
import { drawLegend } from './draw-legend'
import type { LegendBlock, LegendLine } from './entries'
import type { LegendLook } from './look'

const style: TextStyle = {
  font: { family: 'source-sans-3', weight: 400, italic: false },
  sizeMm: 3,
  letterSpacingMm: 0,
}
const fonts = fontBookOf([style.font])

const look: LegendLook = {
  heading: style,
  headingColour: '#000000',
  label: style,
  labelColour: '#000000',
  swatchWidthMm: 9,
  swatchHeightMm: 5,
  gapMm: 0,
  lowFirst: true,
  form: 'upright',
  labelsAt: 'classes',
  columns: 1,
  moved: {},
  title: null,
  note: '',
}
const line = (key: string, text: string, role: LegendLine['role'], fill?: string): LegendLine => ({
  key: `l/${key}`,
  text,
  proposed: text,
  role,
  item: fill
    ? {
        key,
        label: text,
        apart: key === 'missing',
        swatch: { shape: 'box', fill: solid(fill), stroke: null },
      }
    : null,
})
const block: LegendBlock = {
  heading: line('heading', 'Loans', 'heading'),
  items: [
    line('class-0', 'under 2', 'item', '#eeeeee'),
    line('class-1', '2 to 5', 'item', '#888888'),
    line('class-2', '5 and over', 'item', '#222222'),
    line('missing', 'no return', 'item', '#ff0000'),
  ],
  limits: ['1', '2', '5', '9'].map((text, i) => line(`limit-${i}`, text, 'limit')),
  distribution: {
    low: 1,
    high: 9,
    at: [1, 2, 5, 9],
    bins: [
      { from: 1, to: 5, count: 4, colour: '#eeeeee' },
      { from: 5, to: 9, count: 2, colour: '#222222' },
    ],
  },
  square: null,
  sizes: null,
  itemsHeading: null,
}
const drawn = (change: Partial<LegendLook>, blocks = [block]) =>
  drawLegend(blocks, { ...look, ...change }, fonts, 60)
const at = (legend: ReturnType<typeof drawn>, key: string) => {
  const one = legend.placed.find(({ line }) => line.key === `l/${key}`)
  if (!one) throw new Error(`${key} is not there.`)
  return one
}
const words = (legend: ReturnType<typeof drawn>) =>
  [...walk(legend.nodes)].flatMap((node) => (node.type === 'text' ? [node.text] : []))

describe('the forms of a legend', () => {
  it('stand classes below each other, and what is no class a little apart', () => {
    const legend = drawn({})
    expect(at(legend, 'class-1').y - at(legend, 'class-0').y).toBeCloseTo(5, 6)
    expect(at(legend, 'missing').y - at(legend, 'class-2').y).toBeGreaterThan(6)
    expect(words(legend)).toEqual(['Loans', 'under 2', '2 to 5', '5 and over', 'no return'])
  })

  it('name the limits between classes, each at its border', () => {
    const legend = drawn({ labelsAt: 'limits' })
    expect(words(legend)).toEqual(['Loans', '1', '2', '5', '9', 'no return'])
    const top = at(legend, 'class-0').y
    ;[0, 1, 2, 3].forEach((i) =>
      expect(at(legend, `limit-${i}`).y - at(legend, 'limit-0').y).toBeCloseTo(i * 5.0, 1),
    )
    expect(at(legend, 'class-1').y - top).toBeCloseTo(at(legend, 'limit-1').y - at(legend, 'limit-0').y, 1)
  })

  it('lie beside each other without words that run into each other', () => {
    for (const labelsAt of ['classes', 'limits'] as const) {
      const legend = drawn({ form: 'lying', labelsAt, swatchWidthMm: 3 })
      const row = legend.placed.filter(
        ({ line }) => line.role === (labelsAt === 'limits' ? 'limit' : 'item') && line.key !== 'l/missing',
      )
      row.slice(1).forEach((one, i) => expect(one.x).toBeGreaterThanOrEqual(row[i].x + row[i].width - 1e-6))
      expect(new Set(row.map(({ y }) => y)).size).toBe(1)
    }
  })

  it('run the other way when high stands first', () => {
    const legend = drawn({ form: 'lying', lowFirst: false })
    expect(at(legend, 'class-2').x).toBeLessThan(at(legend, 'class-0').x)
    expect(at(drawn({ lowFirst: false }), 'class-2').y).toBeLessThan(
      at(drawn({ lowFirst: false }), 'class-0').y,
    )
  })

  it('set classes under the bars of their values on one scale', () => {
    const legend = drawn({ form: 'histogram' })
    const [low, mid] = [at(legend, 'class-0'), at(legend, 'class-1')]
    // Classes from 1 to 2 and from 2 to 5: the second is three times as wide.
    expect(mid.width / low.width).toBeCloseTo(3, 6)
    const bars = [...walk(legend.nodes)].filter((node) => node.type === 'group' && node.id === 'bars')
    expect(bars).toHaveLength(1)
  })

  it('have a note below all entries, broken to the width', () => {
    const legend = drawn({
      note: 'Loans of books, tapes and files together; four districts sent in no return for this year',
    })
    expect(words(legend).length).toBeGreaterThan(6)
    expect(legend.placed.at(-1)).toMatchObject({ line: { key: 'note', role: 'note' } })
    expect(legend.placed.at(-1)?.y).toBeGreaterThan(at(legend, 'missing').y + at(legend, 'missing').height)
    expect(legend.height).toBeGreaterThan(drawn({}).height)
  })

  it('stand in columns', () => {
    const legend = drawn({ columns: 2 })
    expect(at(legend, 'class-2').y).toBeCloseTo(at(legend, 'class-0').y, 6)
    expect(at(legend, 'class-2').x).toBeGreaterThan(at(legend, 'class-0').x + at(legend, 'class-0').width)
  })

  it('let a single line be moved, and leave the others where they are', () => {
    const [plain, moved] = [drawn({}), drawn({ moved: { 'l/missing': [30, -12] } })]
    expect(at(moved, 'missing').x - at(plain, 'missing').x).toBeCloseTo(30, 6)
    expect(at(moved, 'missing').y - at(plain, 'missing').y).toBeCloseTo(-12, 6)
    expect(at(moved, 'class-2')).toMatchObject({ x: at(plain, 'class-2').x, y: at(plain, 'class-2').y })
    expect(moved.height).toBe(plain.height)
  })

  it('draw two fields as a square with an arrow and words along either side, inside what is taken up', () => {
    const square: LegendBlock = {
      ...block,
      heading: null,
      items: [],
      limits: [],
      distribution: null,
      square: {
        figure: {
          cells: [
            ['#111111', '#222222'],
            ['#333333', '#444444'],
          ],
          turned: true,
          across: 'a',
          up: 'b',
        },
        across: line('across', 'more loans for every resident of the land', 'axis'),
        up: line('up', 'more income', 'axis'),
      },
    }
    for (const turned of [true, false]) {
      const legend = drawn({}, [
        {
          ...square,
          square: square.square && { ...square.square, figure: { ...square.square.figure, turned } },
        },
      ])
      expect(words(legend)).toEqual(['more loans for every resident of the land', 'more income'])
      const cells = [...walk(legend.nodes)].filter((node) => node.type === 'path' && node.fill)
      expect(cells).toHaveLength(4)
      // Cells that a hand fills are no flat colours.
      const filled = (outline: Outline, colour: string) => [path(outline, { strokes: [stroke(colour, 0.3)] })]
      const drawnByHand = drawn({}, [
        {
          ...square,
          square: square.square && { ...square.square, figure: { ...square.square.figure, turned, filled } },
        },
      ])
      const strokes = [...walk(drawnByHand.nodes)].flatMap((node) =>
        node.type === 'path' && !node.fill ? node.strokes.map(({ colour }) => colour) : [],
      )
      expect(strokes).toEqual(expect.arrayContaining(['#111111', '#222222', '#333333', '#444444']))
      expect([...walk(drawnByHand.nodes)].filter((node) => node.type === 'path' && node.fill)).toEqual([])
      expect(legend.width).toBeGreaterThan(13)
      expect(legend.placed.every(({ y }) => y >= -4 && y <= legend.height)).toBe(true)
    }
  })

  it('draw symbols of the sizes that they have on the map, to a hundredth of a millimetre, and never let words touch', () => {
    const marks = [12, 6, 3.3, 1.2].map((sizeMm, i) => ({ label: `${i}`, sizeMm }))
    for (const shape of ['circle', 'square', 'triangle', 'drop', 'bar', 'picture'] as const)
      for (const form of ['nested', 'concentric', 'beside', 'list'] as const) {
        const sizes: LegendBlock['sizes'] = {
          figure: { shape, barWidthMm: 2, form, fill: solid('#aa0000'), stroke: null, marks },
          lines: marks.map(({ label, sizeMm }, i) => ({ line: line(`size-${i}`, label, 'size'), sizeMm })),
        }
        const legend = drawn({}, [
          { ...block, heading: null, items: [], limits: [], distribution: null, sizes },
        ])
        const boxes = [...walk(legend.nodes)].flatMap((node) =>
          node.type === 'path' && node.fill ? [outlineBox(node.outline)] : [],
        )
        const measured = boxes.map(
          (box) =>
            (shape === 'bar' || shape === 'drop' || shape === 'picture' ? box?.height : box?.width) ?? 0,
        )
        expect(measured).toHaveLength(4)
        measured.forEach((mm, i) =>
          expect(Math.abs(mm - marks[i].sizeMm), `${shape} ${form}`).toBeLessThan(0.01),
        )
        const rows = legend.placed.filter(({ line }) => line.role === 'size')
        rows
          .slice(1)
          .forEach((one, i) =>
            expect(
              one.x >= rows[i].x + rows[i].width - 1e-6 || one.y >= rows[i].y + rows[i].height - 1e-6,
            ).toBe(true),
          )
      }
  })
})
