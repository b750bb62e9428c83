import { describe, expect, it } from 'vitest'
import { fontBookOf } from '@/render/font-files'
import { pointsToMm } from '@/core/scene/units'
import { fontFamilyIds, type TextFont } from './fonts'
import { breakLines, lettersNode, measureLine, textNode, traceGlyphs, verticalMetrics } from './text'

const sans: TextFont = { family: 'source-sans-3', weight: 400, italic: false }
const book = fontBookOf([sans])
const style = { font: sans, sizeMm: pointsToMm(10), letterSpacingMm: 0 }

describe('letters that stand by themselves', () => {
  const at = (n: number) => Array.from({ length: n }, (_, i) => ({ x: 10 * i, y: 5, rotationDeg: i * 90 }))
  it('are one text with a glyph for each letter, without ligatures', () => {
    const node = lettersNode(book, 'fi ő', style, { letters: at(4), options: { colour: '#000000' } })
    expect(node?.text).toBe('fi ő')
    expect(node?.runs.flatMap(({ glyphs }) => glyphs)).toHaveLength(4)
  })
  it('are none where letters and places do not correspond', () => {
    expect(lettersNode(book, 'abc', style, { letters: at(2), options: { colour: '#000000' } })).toBeNull()
  })
  it('are traced each in its place and turned', () => {
    const node = lettersNode(book, 'll', style, { letters: at(2), options: { colour: '#000000' } })
    if (!node) throw new Error('There is one.')
    const points: [number, number][] = []
    traceGlyphs(book, node, {
      moveTo: (x, y) => void points.push([x, y]),
      lineTo: (x, y) => void points.push([x, y]),
      bezierCurveTo: (...n) => void points.push([n[4], n[5]]),
      closePath: () => undefined,
    })
    const first = points.filter(([x]) => x < 5)
    const second = points.filter(([x]) => x >= 5)
    expect(Math.max(...first.map(([, y]) => y))).toBeCloseTo(5, 0)
    expect(Math.min(...first.map(([, y]) => y))).toBeLessThan(3.5)
    // Turned clockwise by a right angle, the height of the letter goes to the right.
    expect(Math.max(...second.map(([x]) => x))).toBeGreaterThan(11.5)
    expect(Math.max(...second.map(([, y]) => y)) - Math.min(...second.map(([, y]) => y))).toBeLessThan(1.5)
  })
})

describe('measuring', () => {
  it('is proportional to the size', () => {
    const width = measureLine(book, 'Harrowmouth', style).widthMm
    expect(measureLine(book, 'Harrowmouth', { ...style, sizeMm: style.sizeMm * 3 }).widthMm).toBeCloseTo(
      3 * width,
      9,
    )
  })

  it('kerns: AV is narrower than A and V', () => {
    const width = (text: string) => measureLine(book, text, style).widthMm
    expect(width('AV')).toBeLessThan(width('A') + width('V') - 0.04)
  })

  it('puts letter-spacing between letters, not behind the last', () => {
    const spaced = measureLine(book, 'abc', { ...style, letterSpacingMm: 1 }).widthMm
    expect(spaced).toBeCloseTo(measureLine(book, 'abc', { ...style, letterSpacingMm: 0 }).widthMm + 2, 6)
  })

  it('takes letters that the first file lacks from the next, keeping the order', () => {
    const { runs } = measureLine(book, 'aőb', style)
    expect(runs.map((run) => run.text)).toEqual(['a', 'ő', 'b'])
    expect(runs[1].file).toContain('latin-ext')
    expect(runs[1].xMm).toBeGreaterThan(0)
    expect(runs[2].xMm).toBeGreaterThan(runs[1].xMm)
  })

  it('has every shipped family with real glyphs for Latin text', () => {
    for (const family of fontFamilyIds) {
      const font: TextFont = { family, weight: 700, italic: true }
      const { runs, widthMm } = measureLine(fontBookOf([font]), 'Ågren 1,234', { ...style, font })
      expect(widthMm, family).toBeGreaterThan(10)
      expect(
        runs.flatMap((run) => run.glyphs).every((glyph) => glyph.id > 0),
        family,
      ).toBe(true)
    }
  })
})

describe('breaking lines', () => {
  const text = 'Library loans per resident in the districts of Lindmere'

  it('keeps every line within the width and every word once, in order', () => {
    for (const width of [18, 30, 55]) {
      const lines = breakLines(book, text, style, width)
      expect(lines.join(' ')).toBe(text)
      for (const line of lines)
        if (line.includes(' ')) expect(measureLine(book, line, style).widthMm).toBeLessThanOrEqual(width)
    }
  })

  it('is greedy: the next word would not have fitted', () => {
    const lines = breakLines(book, text, style, 30)
    for (let i = 0; i + 1 < lines.length; i++)
      expect(measureLine(book, `${lines[i]} ${lines[i + 1].split(' ')[0]}`, style).widthMm).toBeGreaterThan(
        30,
      )
  })

  it('lets a word that is too long stand alone and keeps empty lines', () => {
    expect(breakLines(book, 'a Thranecombewater b', style, 5)).toEqual(['a', 'Thranecombewater', 'b'])
    expect(breakLines(book, 'one\n\ntwo', style, 50)).toEqual(['one', '', 'two'])
  })
})

describe('text nodes', () => {
  it('are anchored along their own direction', () => {
    const { widthMm } = measureLine(book, 'Perran', style)
    const end = textNode(book, 'Perran', style, {
      x: 50,
      y: 20,
      colour: '#000000',
      anchor: 'end',
      rotationDeg: 90,
    })
    expect(end.x).toBeCloseTo(50, 9)
    expect(end.y).toBeCloseTo(20 - widthMm, 9)
  })

  it('trace glyphs between ascent and descent, as wide as measured', () => {
    const node = textNode(book, 'Hxg', style, { x: 0, y: 0, colour: '#000000' })
    const [xs, ys]: number[][] = [[], []]
    const take = (...n: number[]) => n.forEach((v, i) => (i % 2 ? ys : xs).push(v))
    traceGlyphs(book, node, { moveTo: take, lineTo: take, bezierCurveTo: take, closePath: () => undefined })
    const { ascentMm, descentMm, capHeightMm } = verticalMetrics(book, style)
    expect(Math.min(...ys)).toBeGreaterThanOrEqual(-ascentMm)
    expect(Math.min(...ys)).toBeLessThanOrEqual(-capHeightMm + 0.02)
    expect(Math.max(...ys)).toBeLessThanOrEqual(descentMm)
    expect(Math.max(...xs)).toBeLessThanOrEqual(node.widthMm)
  })
})
