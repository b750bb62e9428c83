import * as fontkit from 'fontkit'
import type { Font } from 'fontkit'
import { faceFiles, type TextFont } from './fonts'
import { createMemory, type Memory } from '@/core/memory/memory'
import type { Colour } from './paint'
import { unpackedFont } from './sfnt'
import type { GlyphRun, Text } from './scene'

export type { TextFont } from './fonts'

export type TextStyle = { font: TextFont; sizeMm: number; letterSpacingMm: number }

export type LineMeasure = { widthMm: number; runs: GlyphRun[] }

/** Opened font files by name. Files are read by whoever owns the book; the core only looks them up. */
export type FontBook = { fonts: Map<string, Font>; lines: Memory<FontBook, LineMeasure> }

export const createFontBook = (): FontBook => ({
  fonts: new Map(),
  lines: createMemory('lettering', { maxBytes: 32 * 2 ** 20 }),
})

export function addFont(book: FontBook, file: string, bytes: Uint8Array): void {
  const opened = fontkit.create(unpackedFont(bytes) as Buffer)
  if (!('layout' in opened)) throw new Error(`${file} is a collection, not a single font.`)
  book.fonts.set(file, opened)
}

/** @throws Error naming the file when it has not been added to the book. */
export function fontOf(book: FontBook, file: string): Font {
  const font = book.fonts.get(file)
  if (!font) throw new Error(`The font file ${file} is not loaded.`)
  return font
}

/**
 * OpenType features used for a line: ligatures would be torn apart by letter-spacing, so they go when it is
 * set.
 */
export const featuresFor = (letterSpacingMm: number, single = false): Record<string, boolean> =>
  letterSpacingMm === 0 && !single ? {} : { liga: false, clig: false, dlig: false }

/**
 * Lays out one line of text. Characters missing from the first file of the face are looked for in the next.
 */
export function measureLine(book: FontBook, text: string, style: TextStyle): LineMeasure {
  const key = `${style.font.family}|${style.font.weight}|${style.font.italic}|${style.sizeMm}|${style.letterSpacingMm}|${text}`
  return book.lines(book, key, () => layOut(book, text, style))
}

function layOut(book: FontBook, text: string, style: TextStyle): LineMeasure {
  let widthMm = 0
  const runs: GlyphRun[] = []
  for (const part of splitByFile(book, text, style.font)) {
    const font = fontOf(book, part.file)
    const scale = style.sizeMm / font.unitsPerEm
    const laid = font.layout(part.text, featuresFor(style.letterSpacingMm))
    let x = 0
    const glyphs = laid.glyphs.map((glyph, i) => {
      const placed = {
        id: glyph.id,
        xMm: x + laid.positions[i].xOffset * scale,
        yMm: -laid.positions[i].yOffset * scale,
      }
      x += laid.positions[i].xAdvance * scale + style.letterSpacingMm
      return placed
    })
    runs.push({ file: part.file, text: part.text, xMm: widthMm, glyphs })
    widthMm += x
  }
  return { widthMm: Math.max(0, widthMm - style.letterSpacingMm), runs }
}

function splitByFile(book: FontBook, text: string, font: TextFont): { file: string; text: string }[] {
  const files = faceFiles(font)
  const parts: { file: string; text: string }[] = []
  for (const character of text) {
    const point = character.codePointAt(0) ?? 32
    const file = files.find((f) => fontOf(book, f).hasGlyphForCodePoint(point)) ?? files[0]
    const last = parts.at(-1)
    if (last && (last.file === file || point === 32)) last.text += character
    else parts.push({ file, text: character })
  }
  return parts
}

/** Height above and below the baseline, in mm, and the height of capitals. */
export function verticalMetrics(
  book: FontBook,
  style: TextStyle,
): { ascentMm: number; descentMm: number; capHeightMm: number } {
  const font = fontOf(book, faceFiles(style.font)[0])
  const scale = style.sizeMm / font.unitsPerEm
  return {
    ascentMm: font.ascent * scale,
    descentMm: -font.descent * scale,
    capHeightMm: font.capHeight * scale,
  }
}

/**
 * Breaks text into lines no wider than `widthMm`, at spaces and at line feeds; a longer word gets a line of
 * its own.
 */
export function breakLines(book: FontBook, text: string, style: TextStyle, widthMm: number): string[] {
  return text.split('\n').flatMap((paragraph) => {
    const lines: string[] = []
    let line = ''
    for (const word of paragraph.split(/ +/)) {
      const longer = line === '' ? word : `${line} ${word}`
      if (line !== '' && measureLine(book, longer, style).widthMm > widthMm + 1e-6) {
        lines.push(line)
        line = word
      } else line = longer
    }
    return [...lines, line]
  })
}

export type LineOptions = {
  x: number
  y: number
  colour: Colour
  anchor?: 'start' | 'middle' | 'end'
  rotationDeg?: number
  halo?: { colour: Colour; widthMm: number } | null
}

/**
 * A text node for one line, anchored at (x, y) on its baseline; rotation turns it clockwise around that
 * point.
 */
export function textNode(book: FontBook, text: string, style: TextStyle, options: LineOptions): Text {
  const { widthMm, runs } = measureLine(book, text, style)
  const shift = { start: 0, middle: widthMm / 2, end: widthMm }[options.anchor ?? 'start']
  const angle = ((options.rotationDeg ?? 0) * Math.PI) / 180
  return {
    type: 'text',
    x: options.x - shift * Math.cos(angle),
    y: options.y - shift * Math.sin(angle),
    rotationDeg: options.rotationDeg ?? 0,
    text,
    font: style.font,
    sizeMm: style.sizeMm,
    letterSpacingMm: style.letterSpacingMm,
    colour: options.colour,
    halo: options.halo ?? null,
    widthMm,
    runs,
  }
}

/**
 * A text whose letters stand one by one, such as along a curve; null where glyphs and letters do not
 * correspond.
 */
export function lettersNode(
  book: FontBook,
  text: string,
  style: TextStyle,
  {
    letters,
    options,
  }: { letters: NonNullable<Text['letters']>; options: Pick<LineOptions, 'colour' | 'halo'> },
): Text | null {
  const runs = splitByFile(book, text, style.font).map((part): GlyphRun => ({
    file: part.file,
    text: part.text,
    xMm: 0,
    glyphs: fontOf(book, part.file)
      .layout(part.text, featuresFor(0, true))
      .glyphs.map(({ id }) => ({ id, xMm: 0, yMm: 0 })),
  }))
  if (
    runs.reduce((sum, { glyphs }) => sum + glyphs.length, 0) !== letters.length ||
    [...text].length !== letters.length
  )
    return null
  return {
    type: 'text',
    x: 0,
    y: 0,
    rotationDeg: 0,
    text,
    font: style.font,
    sizeMm: style.sizeMm,
    letterSpacingMm: 0,
    colour: options.colour,
    halo: options.halo ?? null,
    widthMm: 0,
    runs,
    letters,
  }
}

/**
 * Feeds the outlines of a line's glyphs, in the line's own space (start of the baseline at 0, 0), to a sink.
 */
export function traceGlyphs(book: FontBook, node: Text, sink: import('./outline').OutlineSink): void {
  let n = 0
  for (const run of node.runs) {
    const font = fontOf(book, run.file)
    const scale = node.sizeMm / font.unitsPerEm
    for (const { id, xMm, yMm } of run.glyphs) {
      const letter = node.letters?.[n++]
      const at = letter
        ? placed(letter, scale)
        : (x: number, y: number): [number, number] => [run.xMm + xMm + x * scale, yMm - y * scale]
      let [px, py] = [0, 0]
      for (const { command, args: a } of font.getGlyph(id).path.commands) {
        if (command === 'moveTo') sink.moveTo(...at(a[0], a[1]))
        else if (command === 'lineTo') sink.lineTo(...at(a[0], a[1]))
        else if (command === 'bezierCurveTo')
          sink.bezierCurveTo(...at(a[0], a[1]), ...at(a[2], a[3]), ...at(a[4], a[5]))
        else if (command === 'quadraticCurveTo')
          sink.bezierCurveTo(
            ...at(px + (2 / 3) * (a[0] - px), py + (2 / 3) * (a[1] - py)),
            ...at(a[2] + (2 / 3) * (a[0] - a[2]), a[3] + (2 / 3) * (a[1] - a[3])),
            ...at(a[2], a[3]),
          )
        else sink.closePath()
        if (a.length >= 2) [px, py] = [a[a.length - 2], a[a.length - 1]]
      }
    }
  }
}

/** Where points of a glyph lie that stands by itself. */
function placed(
  { x: x0, y: y0, rotationDeg }: NonNullable<Text['letters']>[number],
  scale: number,
): (x: number, y: number) => [number, number] {
  const angle = (rotationDeg * Math.PI) / 180
  const [cos, sin] = [scale * Math.cos(angle), scale * Math.sin(angle)]
  return (x, y) => [x0 + x * cos + y * sin, y0 + x * sin - y * cos]
}
