import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { breakLines } from '@/core/scene/text'
import { fontBookOf } from '@/render/font-files'
import { inStyle } from '../type-styles'
import { lineStyle } from '../type-style'
import { alongArc, textsOf, withEffects } from './draw'
import { loadHyphens, syllablesOf } from './hyphens'
import { layOutText } from './lay-out'
import { alignEachAfter, fontsOf, runsOf, spansAfter } from './runs'
import { noEffects, SettingOfParagraphs, type Span } from './spec'

const style = inStyle('body', { named: null })
const spans: Span[] = [
  { from: 4, to: 9, look: { weight: 700 } },
  { from: 7, to: 12, look: { colour: '#ff0000' } },
]
const fonts = fontBookOf(
  fontsOf(style, [
    { from: 0, to: 1, look: { weight: 700 } },
    { from: 0, to: 1, look: { italic: true } },
  ]),
)
const setter = { fonts, style }
const plain = SettingOfParagraphs.parse({ align: 'left', leading: 1.25 })
const words =
  'Lindmere is a country of readers, whose libraries lent more than eleven million books, recordings and games in the year that was counted; most of them in the unmistakably book-loving east.'
const linesIn = (text: string, width: number, more: Partial<typeof plain> = {}) =>
  layOutText(runsOf(text, []), setter, { ...plain, ...more }, width)
const texts = (laid: ReturnType<typeof linesIn>) => laid.lines.map(({ line }) => line.text)

beforeAll(() => loadHyphens(['en-gb', 'de']))

describe('runs', () => {
  it('are cut at the ends of spans; the later span says more', () => {
    expect(runsOf('abcdefghijklmnop', spans)).toEqual([
      { text: 'abcd', look: {} },
      { text: 'efg', look: { weight: 700 } },
      { text: 'hi', look: { weight: 700, colour: '#ff0000' } },
      { text: 'jkl', look: { colour: '#ff0000' } },
      { text: 'mnop', look: {} },
    ])
    expect(runsOf('ab', [{ from: 1, to: 99, look: { italic: true } }])).toEqual([
      { text: 'a', look: {} },
      { text: 'b', look: { italic: true } },
    ])
  })

  it('keep their looks on the same letters while one types before, in and behind them', () => {
    const red = [{ from: 4, to: 8, look: { colour: '#ff0000' } }]
    const reddened = (text: string, s: Span[]) => s.map(({ from, to }) => text.slice(from, to))
    const typed = (before: string, after: string) => reddened(after, spansAfter(before, after, red))
    expect(typed('one two! three', 'ooone two! three')).toEqual(['two!'])
    expect(typed('one two! three', 'one twenty-two! three')).toEqual(['twenty-two!'])
    expect(typed('one two! three', 'one two! thirty-three')).toEqual(['two!'])
    expect(typed('one two! three', 'one 3')).toEqual(['3'])
    expect(typed('one two! three', '')).toEqual([])
  })

  it('never leave the text, whatever is typed', () => {
    const text = fc.string({ maxLength: 20 })
    fc.assert(
      fc.property(text, text, fc.nat(20), fc.nat(20), (before, after, a, b) => {
        const [from, to] = [Math.min(a, b), Math.max(a, b)].map((n) => Math.min(n, before.length))
        for (const span of spansAfter(
          before,
          after,
          from < to ? [{ from, to, look: { italic: true } }] : [],
        )) {
          expect(span.from).toBeGreaterThanOrEqual(0)
          expect(span.to).toBeLessThanOrEqual(after.length)
          expect(span.to).toBeGreaterThan(span.from)
        }
      }),
    )
  })
})

describe('lines', () => {
  it('of one look break where plain text breaks, at every width', () => {
    for (let width = 12; width < 160; width += 7)
      expect(texts(linesIn(words, width))).toEqual(breakLines(fonts, words, lineStyle(style), width))
    expect(texts(linesIn('a\n\nb', 50))).toEqual(['a', '', 'b'])
  })

  it('are parted at syllables where a language is given, and never too wide for that', () => {
    const laid = linesIn(words, 24, { hyphenate: 'en-gb' })
    expect(texts(laid).some((text) => text.endsWith('-'))).toBe(true)
    for (const { line } of laid.lines) expect(line.widthMm).toBeLessThan(24.001)
    const joined = texts(laid)
      .join(' ')
      .replace(/(?<=\p{L})- (?!loving)/gu, '')
    expect(joined.replace('book- loving', 'book-loving')).toBe(words)
    expect(syllablesOf('Buchhandlung', 'de')).toEqual(['Buch', 'hand', 'lung'])
    expect(() => syllablesOf('livraison', 'fr')).toThrow('not loaded')
  })

  it('of both looks are measured piece by piece and stand one behind the other', () => {
    const laid = layOutText(
      runsOf('plain bold plain', [{ from: 6, to: 10, look: { weight: 700 } }]),
      setter,
      plain,
      100,
    )
    const [{ pieces }] = laid.lines
    expect(pieces.map(({ text }) => text)).toEqual(['plain ', 'bold ', 'plain'])
    expect(pieces[1].x).toBeCloseTo(pieces[0].widthMm, 9)
    expect(pieces[2].x).toBeCloseTo(pieces[1].x + pieces[1].widthMm, 9)
  })

  it('set to the full width end at it, but for the last one', () => {
    const { lines } = linesIn(words, 50, { align: 'justified' })
    for (const { pieces, line } of lines.slice(0, -1)) {
      const last = pieces[pieces.length - 1]
      expect(last.x + last.widthMm).toBeCloseTo(50, 6)
      expect(pieces.map(({ text }) => text).join(' ')).toBe(line.text)
    }
    const end = lines[lines.length - 1]
    expect(end.pieces).toHaveLength(1)
  })

  it('are shared out over columns, the first ones longer', () => {
    const { lines, heightMm } = linesIn(words, 124, { columns: 3, gutterMm: 5 })
    const at = [...new Set(lines.map(({ x }) => Math.round(x * 10) / 10))]
    expect(at).toEqual([0, 43, 86])
    const counts = at.map((x) => lines.filter((line) => Math.abs(line.x - x) < 0.1).length)
    expect(counts[0]).toBeGreaterThanOrEqual(counts[2])
    expect(heightMm).toBeLessThan(linesIn(words, 38).heightMm / 2)
  })

  it('make room for a first letter that is several lines high', () => {
    const { initial, lines } = linesIn(words, 80, { initialLines: 3 })
    expect(initial?.piece.text).toBe('L')
    expect(initial?.y).toBeCloseTo(lines[2].y, 6)
    expect(lines.slice(0, 3).every(({ x }) => x > (initial?.widthMm ?? 0))).toBe(true)
    expect(lines[3].x).toBe(0)
    expect(linesIn('12 towns', 80, { initialLines: 3 }).initial).toBe(null)
  })

  it('stand apart by the gap of paragraphs and are indented at their beginning', () => {
    const { lines } = linesIn('one\ntwo', 80, { paragraphGapMm: 5, indentMm: 4 })
    expect(lines.map(({ x }) => x)).toEqual([4, 4])
    expect(lines[1].y - lines[0].y).toBeCloseTo(5 + 1.25 * lineStyle(style).sizeMm, 6)
  })
})

describe('drawn letters', () => {
  const laid = linesIn('Glow', 80)
  const [node] = textsOf(laid, fonts, [10, 10])
  const options = { fonts, box: { x: 10, y: 10, width: 80, height: 10 }, name: 'T' }

  it('stay one text under glow, shadow and gradient', () => {
    const drawn = withEffects(
      [node],
      {
        ...noEffects,
        glow: { colour: '#ffffff', radiusMm: 2, strength: 0.8 },
        shadow: { colour: '#000000', opacity: 0.5, dx: 1, dy: 1, softMm: 0 },
        fill: {
          by: 'linear',
          angleDeg: 0,
          bands: 0,
          stops: [
            { at: 0, colour: '#ff0000', opacity: 1 },
            { at: 1, colour: '#0000ff', opacity: 1 },
          ],
        },
      },
      options,
    )
    const kept = drawn.filter(({ type }) => type === 'text')
    expect(kept).toHaveLength(1)
    expect(kept[0]).toMatchObject({ text: 'Glow', colour: `${node.colour}00` })
    expect(JSON.stringify(drawn).match(/"type":"text"/g)).toHaveLength(1)
    expect(withEffects([node], noEffects, options)).toEqual([{ ...node, halo: null }])
  })

  it('along an arc lie on the circle, the middle of the line at its top', () => {
    const [piece] = laid.lines[0].pieces
    const set = alongArc(piece, fonts, { middle: 50, y: 20, radiusMm: 40 })!
    expect(set.letters).toHaveLength(4)
    const [first] = set.letters!
    const last = set.letters![3]
    expect(first.rotationDeg).toBeLessThan(0)
    expect(last.rotationDeg).toBeGreaterThan(0)
    for (const { x, y, rotationDeg } of set.letters!) {
      // The left end of a letter lies on the tangent of the circle at its middle, so no farther out than that.
      expect(Math.hypot(x - 50, y - 60)).toBeGreaterThanOrEqual(40 - 1e-6)
      expect(Math.hypot(x - 50, y - 60)).toBeLessThan(40.3)
      expect(Math.abs(rotationDeg)).toBeLessThan(20)
    }
  })
})

describe('paragraphs set each by itself', () => {
  const shift = (laid: ReturnType<typeof linesIn>) => laid.lines.map(({ pieces }) => pieces[0]?.x ?? 0)

  it('stand where they are asked to, the others as the text', () => {
    const laid = linesIn('one\ntwo\nthree\nfour', 60, { alignEach: [null, 'centre', 'right'] })
    const [first, second, third, fourth] = shift(laid)
    expect([first, fourth]).toEqual([0, 0])
    expect(second).toBeCloseTo((60 - laid.lines[1].line.widthMm) / 2, 6)
    expect(third).toBeCloseTo(60 - laid.lines[2].line.widthMm, 6)
  })

  it('keep how they are set while one types before, in and behind them', () => {
    const set = [null, 'centre', 'right'] as const
    const typed = (before: string, after: string) => alignEachAfter(before, after, set)
    expect(typed('a\nb\nc', 'x\na\nb\nc')).toEqual([null, null, 'centre', 'right'])
    expect(typed('a\nb\nc', 'a\nbb\nc')).toEqual([null, 'centre', 'right'])
    expect(typed('a\nb\nc', 'a\nb\nb2\nc')).toEqual([null, 'centre', 'right', 'right'])
    expect(typed('a\nb\nc', 'a\nc')).toEqual([null, 'right'])
    expect(alignEachAfter('a', 'a\nb', [])).toEqual([])
  })

  it('are as many as the text has, whatever is typed', () => {
    const text = fc.string({ unit: fc.constantFrom('a', 'b', '\n', ' '), maxLength: 12 })
    const each = fc.array(fc.constantFrom(null, 'centre' as const, 'right' as const), {
      minLength: 1,
      maxLength: 5,
    })
    fc.assert(
      fc.property(text, text, each, (before, after, set) => {
        const now = alignEachAfter(before, after, set)
        expect(now).toHaveLength(after.split('\n').length)
        if (before === after) expect(now).toEqual(now.map((_, i) => set[i] ?? null))
      }),
    )
  })
})

describe('columns', () => {
  const heights = (laid: ReturnType<typeof linesIn>, columns: number, width: number) =>
    Array.from({ length: columns }, (_, c) => {
      const own = laid.lines.filter(({ x }) => Math.abs(x - c * (width + 4)) < 1)
      return own.length ? Math.max(...own.map(({ y }) => y)) : 0
    })

  it('are as equally high as lines allow, with paragraphs apart and lines of several sizes', () => {
    const big: Span[] = [{ from: 0, to: 40, look: { sizePt: 24 } }]
    const text = `${words}\n${words}`
    for (const columns of [2, 3]) {
      const whole = 60 * columns + 4 * (columns - 1)
      const setting = { ...plain, columns, paragraphGapMm: 5 }
      const laid = layOutText(runsOf(text, big), setter, setting, whole)
      const feet = heights(laid, columns, 60)
      const tallest = Math.max(...laid.lines.map(({ line }) => (line.pieces[0]?.style.sizeMm ?? 0) * 1.25))
      expect(Math.max(...feet) - Math.min(...feet)).toBeLessThan(2 * tallest + 5)
      // A line does not get lost, nor change its place in the text.
      const single = layOutText(runsOf(text, big), setter, { ...setting, columns: 1 }, 60)
      expect(laid.lines.map(({ line }) => line.text)).toEqual(single.lines.map(({ line }) => line.text))
    }
  })

  it('begin at the top, each of them', () => {
    const laid = linesIn(words, 124, { columns: 2 })
    const [left, right] = [0, 64].map((x) => laid.lines.filter((line) => Math.abs(line.x - x) < 1))
    expect(right[0].y).toBeCloseTo(left[0].y, 6)
    expect(linesIn('', 50, { columns: 3 }).heightMm).toBeGreaterThan(0)
  })
})
