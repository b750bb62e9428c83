import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { fontBookOf } from '@/render/font-files'
import { measureLine } from '@/core/scene/text'
import { alongLine, stretches, tracksIn } from './along'
import { besideMark } from './beside'
import { insideArea, spansAt, type PaperArea } from './inside'
import { cased, layOutLabel, layOutLine, smallCapital } from './lettering'
import { plainLabels, type LabelSettings } from './spec'
import { spineOf } from './spine'
import { pointAt, smoothed, trackOf } from './track'
import { labelSizes, labelWords, rankedRows } from './words'

const fonts = fontBookOf([
  { family: 'source-sans-3', weight: 400, italic: false },
  { family: 'source-sans-3', weight: 400, italic: true },
])
const settings = (more: Partial<LabelSettings> = {}): LabelSettings => plainLabels('name', 'points', more)
const dataset = {
  rowCount: 3,
  geometry: { kind: 'none' },
  fields: [
    { key: 'name', column: textColumn(['Harrowmouth', 'Ellow', null]) },
    { key: 'population', column: numberColumn([261_400, 4_120, null]) },
    { key: 'share', column: numberColumn([0.456, 12, 3]) },
  ],
} as unknown as Dataset

describe('what labels say', () => {
  it('is a field, numbers as readers write them', () => {
    expect(labelWords({ by: 'field', field: 'name' }, dataset).words).toEqual(['Harrowmouth', 'Ellow', null])
    expect(labelWords({ by: 'field', field: 'population' }, dataset).words).toEqual([
      '261,400',
      '4,120',
      null,
    ])
    expect(labelWords({ by: 'field', field: 'share' }, dataset).words).toEqual(['0.46', '12', '3'])
  })

  it('is what a formula gives, with lines broken where it says', () => {
    expect(
      labelWords(
        { by: 'formula', formula: 'concat(name, "\\n", format(population / 1000, 1), " thousand")' },
        dataset,
      ).words,
    ).toEqual(['Harrowmouth\n261.4 thousand', 'Ellow\n4.1 thousand', null])
    expect(labelWords({ by: 'formula', formula: 'population > 10000 ? name : ""' }, dataset).words).toEqual([
      'Harrowmouth',
      null,
      null,
    ])
  })

  it('is nothing, with a reason, where the formula or the field cannot be used', () => {
    expect(labelWords({ by: 'formula', formula: 'concat(nam)' }, dataset)).toEqual({
      words: [null, null, null],
      problem: 'There is no field “nam”.',
    })
    expect(labelWords({ by: 'field', field: 'gone' }, dataset).problem).toContain('is gone')
  })

  it('comes by rank, from a least value on, and in sizes by class', () => {
    expect(rankedRows(settings({ rankField: 'share' }), dataset)).toEqual([1, 2, 0])
    expect(rankedRows(settings({ rankField: 'share', atLeast: 3 }), dataset)).toEqual([1, 2])
    const size = labelSizes(
      settings({
        sizeBy: {
          field: 'population',
          steps: [
            { atLeast: 1000, sizePt: 8 },
            { atLeast: 100_000, sizePt: 11 },
          ],
        },
      }),
      dataset,
    )
    expect([size(0), size(1), size(2)]).toEqual([11, 8, 7])
  })
})

describe('lettering', () => {
  it('sets small capitals as smaller capitals', () => {
    expect(cased('Calder Isle', 'small capitals')).toEqual([
      { text: 'C', share: 1 },
      { text: 'ALDER ', share: smallCapital },
      { text: 'I', share: 1 },
      { text: 'SLE', share: smallCapital },
    ])
    const line = layOutLine(fonts, 'Calder', settings({ capitals: 'small capitals' }), { sizeMm: 4 })
    expect(line.stretches.map(({ style }) => style.sizeMm)).toEqual([4, 4 * smallCapital])
    expect(line.widthMm).toBeCloseTo(line.stretches[0].widthMm + line.stretches[1].widthMm, 9)
  })

  it('spaces letters by a share of the size', () => {
    const wide = layOutLabel(fonts, 'Ellow', settings({ spacing: 0.5 }), { sizePt: 10 })
    const plain = layOutLabel(fonts, 'Ellow', settings(), { sizePt: 10 })
    expect(wide.widthMm - plain.widthMm).toBeCloseTo(4 * 0.5 * plain.sizeMm, 1)
  })

  it('breaks lines at a width and at line feeds', () => {
    expect(
      layOutLabel(fonts, 'Long Joranridge', settings({ breakAtMm: 12 }), { sizePt: 7 }).lines,
    ).toHaveLength(2)
    expect(layOutLabel(fonts, 'Long\nJoranridge', settings(), { sizePt: 7 }).lines).toHaveLength(2)
  })
})

describe('beside a symbol', () => {
  const mark = { feature: 0, x: 50, y: 50, left: 3, up: 3, right: 3, down: 3 }
  const block = layOutLabel(fonts, 'Ellow', settings(), { sizePt: 7 })

  it('there are eight places clear of it, the side wished for first', () => {
    for (const first of ['right', 'above', 'left', 'below'] as const) {
      const places = besideMark(
        fonts,
        block,
        settings({ point: { first, gapMm: 0.6, within: false, far: false } }),
        mark,
      )
      expect(places).toHaveLength(8)
      const [{ x, y }] = places
      expect({ right: x > 53, left: x < 47, above: y < 47, below: y > 53 }[first]).toBe(true)
      // Corners of the box may lie beside a round symbol within its square, never on the symbol.
      for (const { boxes } of places) {
        const [x0, y0, x1, y1] = boxes[0]
        const [nx, ny] = [Math.min(x1, Math.max(x0, 50)), Math.min(y1, Math.max(y0, 50))]
        expect(Math.hypot(nx - 50, ny - 50)).toBeGreaterThan(2.6)
      }
    }
  })

  it('is on it first where that is wished and there is room', () => {
    const on = settings({ point: { first: 'right', gapMm: 0.6, within: true, far: false } })
    expect(besideMark(fonts, block, on, { ...mark, left: 8, right: 8, up: 8, down: 8 })[0]).toMatchObject({
      x: 50,
      y: 50,
      preferred: true,
    })
    expect(besideMark(fonts, block, on, mark)).toHaveLength(8)
  })
})

const rectangle = (x0: number, y0: number, x1: number, y1: number): PaperArea => ({
  rings: () => [Float64Array.from([x0, y0, x1, y0, x1, y1, x0, y1, x0, y0])],
  x: (x0 + x1) / 2,
  y: (y0 + y1) / 2,
  box: [x0, y0, x1, y1],
})
const paper: [number, number, number, number] = [0, 0, 200, 100]

describe('in an area', () => {
  it('is set inside, in its middle where there is room', () => {
    expect(spansAt(rectangle(10, 10, 50, 30).rings(), 20)).toEqual([[10, 50]])
    const [first] = insideArea(fonts, 'Ellow', settings(), {
      sizePt: 7,
      area: rectangle(10, 10, 50, 30),
      window: paper,
      isOpen: () => true,
    })
    expect(first).toMatchObject({ x: 30, y: 20, preferred: true })
  })

  it('takes two lines where one is too wide, and lies within the borders', () => {
    const area = rectangle(10, 10, 27, 30)
    const [first] = insideArea(fonts, 'Grimnatarn Cross', settings(), {
      sizePt: 8,
      area,
      window: paper,
      isOpen: () => true,
    })
    expect(first.preferred).toBe(true)
    const [x0, y0, x1, y1] = first.boxes[0]
    expect(x0 > 10 && x1 < 27 && y0 > 10 && y1 < 30).toBe(true)
    expect(first.nodes().map(({ text }) => text)).toEqual(['Grimnatarn', 'Cross'])
  })

  it('goes outside with a line to it where there is no room, on open ground first', () => {
    const [first] = insideArea(fonts, 'Skoranquay', settings(), {
      sizePt: 9,
      area: rectangle(50, 50, 54, 54),
      window: paper,
      isOpen: (x) => x < 50,
    })
    expect(first.leader).not.toBeNull()
    expect(first.boxes[0][2]).toBeLessThan(50)
    expect(first.leader?.slice(2)).toEqual([52, 52])
    expect([
      ...insideArea(
        fonts,
        'Skoranquay',
        settings({ area: { form: 'straight', beyond: false, outside: false } }),
        { sizePt: 9, area: rectangle(50, 50, 54, 54), window: paper, isOpen: () => true },
      ),
    ]).toEqual([])
    expect([
      ...insideArea(
        fonts,
        'Skoranquay',
        settings({ area: { form: 'straight', beyond: true, outside: false } }),
        { sizePt: 9, area: rectangle(50, 50, 54, 54), window: paper, isOpen: () => true },
      ),
    ]).toMatchObject([{ x: 52, y: 52, preferred: false }])
  })

  it('follows a long bent area letter by letter, from left to right', () => {
    const bow: number[] = []
    for (let i = 0; i <= 40; i++) bow.push(20 + 4 * i, 60 - 25 * Math.sin((Math.PI * i) / 40))
    for (let i = 40; i >= 0; i--) bow.push(20 + 4 * i, 72 - 25 * Math.sin((Math.PI * i) / 40))
    bow.push(bow[0], bow[1])
    const area: PaperArea = { rings: () => [Float64Array.from(bow)], x: 100, y: 41, box: [20, 35, 180, 72] }
    const spine = spineOf(area.rings(), 3)
    for (const way of [0.2, 0.5, 0.8]) {
      const { x, y } = pointAt(spine as NonNullable<typeof spine>, way * (spine?.length ?? 0))
      const middle = 66 - 25 * Math.sin((Math.PI * (x - 20)) / 160)
      expect(Math.abs(y - middle)).toBeLessThan(3)
    }
    const [first] = insideArea(
      fonts,
      'Brenilreach',
      settings({ area: { form: 'curved', beyond: false, outside: false } }),
      { sizePt: 10, area, window: paper, isOpen: () => true },
    )
    const [{ text, letters = [] }] = first.nodes()
    expect(text).toBe('Brenilreach')
    expect(letters).toHaveLength(11)
    letters.slice(1).forEach((letter, i) => expect(letter.x).toBeGreaterThan(letters[i].x))
    expect(letters[0].rotationDeg).toBeLessThan(-5)
    expect(letters[letters.length - 1].rotationDeg).toBeGreaterThan(5)
    expect(spineOf(rectangle(0, 0, 30, 25).rings(), 2)).toBeNull()
  })
})

describe('along a line', () => {
  const line = settings({ line: { side: 'above', curved: true, repeatMm: null } })

  it('is straight above a straight line, read from left to right whichever way the line runs', () => {
    for (const points of [
      [10, 50, 90, 50],
      [90, 50, 10, 50],
    ]) {
      const [first] = alongLine(fonts, 'Fridwin', line, { sizePt: 8, line: trackOf(points), span: [0, 80] })
      const [node] = first.nodes()
      expect(node).toMatchObject({ text: 'Fridwin', rotationDeg: expect.closeTo(0, 5) })
      expect(node.y).toBeLessThan(50)
      expect(node.x + node.widthMm / 2).toBeCloseTo(50, 1)
    }
  })

  it('bends with the line where it bends, and no letter turns sharply', () => {
    const arc = Array.from({ length: 61 }, (_, i) => [
      50 + 30 * Math.cos(Math.PI + (Math.PI * i) / 60),
      60 + 30 * Math.sin(Math.PI + (Math.PI * i) / 60),
    ]).flat()
    const track = trackOf(arc)
    const [first] = alongLine(
      fonts,
      'Trystowe',
      settings({ spacing: 0.6, line: { side: 'on', curved: true, repeatMm: null } }),
      { sizePt: 9, line: track, span: [0, track.length] },
    )
    const [{ text, letters = [] }] = first.nodes()
    expect([text, letters.length]).toEqual(['Trystowe', 8])
    letters.forEach(({ x, y }) => expect(Math.abs(Math.hypot(x - 50, y - 60) - 30)).toBeLessThan(3))
    letters
      .slice(1)
      .forEach((letter, i) => expect(Math.abs(letter.rotationDeg - letters[i].rotationDeg)).toBeLessThan(22))
  })

  it('is left out of a line shorter than itself, and repeated on a long one', () => {
    expect(
      alongLine(fonts, 'Trystowe', line, { sizePt: 9, line: trackOf([0, 0, 5, 0]), span: [0, 5] }),
    ).toEqual([])
    expect(stretches(trackOf([0, 0, 100, 0]), 30)).toHaveLength(3)
    expect(
      tracksIn([-10, 5, 5, 5, 20, 5, 500, 5, 30, 5, 40, 5], { x: 0, y: 0, width: 100, height: 10 }).map(
        ({ xs }) => xs,
      ),
    ).toEqual([
      [5, 20],
      [30, 40],
    ])
  })

  it('irons out small bends only', () => {
    const zigzag = trackOf(Array.from({ length: 101 }, (_, i) => [i, i % 2]).flat())
    const smooth = smoothed(zigzag, 0.5, 4)
    expect(smooth.length).toBeLessThan(0.75 * zigzag.length)
    expect([smooth.xs[0], smooth.xs.at(-1)]).toEqual([0, 100])
  })

  it('spaces curved letters as wide as the same word set straight, but for pairs drawn together', () => {
    const style = {
      font: { family: 'source-sans-3' as const, weight: 400 as const, italic: false },
      sizeMm: 3,
      letterSpacingMm: 0,
    }
    const whole = measureLine(fonts, 'Trystowe', style).widthMm
    const single = [...'Trystowe'].reduce((sum, letter) => sum + measureLine(fonts, letter, style).widthMm, 0)
    expect(Math.abs(single - whole) / whole).toBeLessThan(0.08)
  })
})
