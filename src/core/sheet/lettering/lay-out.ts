import { measureLine, verticalMetrics, type FontBook, type TextStyle } from '@/core/scene/text'
import { breakParagraph, paragraphsOf, reachOf, type Line, type Piece, type Setter } from './lines'
import { setLook, type Run } from './runs'
import type { Alignment, SettingOfParagraphs } from './spec'

/** A line in its place: the left end of the space it stands in, its baseline, and that space's width, mm. */
export type PlacedLine = { line: Line; x: number; y: number; widthMm: number; pieces: Piece[] }

export type LaidText = { lines: PlacedLine[]; initial: Initial | null; heightMm: number }

/** The large first letter. */
export type Initial = { piece: Piece; x: number; y: number; widthMm: number }

const widthOf = (fonts: FontBook, text: string, style: TextStyle): number =>
  measureLine(fonts, text, style).widthMm

type Flow = { line: Line; y: number; before: number; align: Alignment }

/** Space between the initial and the lines beside it, as a share of the type size. */
const besideInitial = 0.3

/**
 * Sets a text into columns of a given width, from (0, 0) downwards. Columns are made as equally high as lines allow.
 */
export function layOutText(
  runs: readonly Run[],
  setter: Setter,
  setting: SettingOfParagraphs,
  widthMm: number,
): LaidText {
  const { columns, gutterMm, leading } = setting
  const columnWidth = Math.max(1, (widthMm - (columns - 1) * gutterMm) / columns)
  const { initial, rest } = takeInitial(runs, setter, setting)
  const beside = initial ? initial.widthMm + besideInitial * setLook(setter.style, {}).style.sizeMm : 0
  const flow: Flow[] = []
  let y = 0
  let last: { down: number } | null = null
  paragraphsOf(rest).forEach((paragraph, p) => {
    const free = (line: number) => columnWidth - (line < setting.initialLines && p === 0 ? beside : 0)
    const indented = { ...setting, indentMm: initial && p === 0 ? 0 : setting.indentMm }
    breakParagraph(paragraph, setter, indented, free).forEach((line, n) => {
      const reach = reachOf(line, setter)
      const gap = n === 0 && p > 0 ? setting.paragraphGapMm : 0
      y += last === null ? reach.up : leading * reach.size + gap
      flow.push({
        line,
        y,
        before: p === 0 && n < setting.initialLines ? beside : 0,
        align: setting.alignEach[p] ?? setting.align,
      })
      last = reach
    })
  })
  const placed = inColumns(flow, { columns, columnWidth, gutterMm, setter })
  const lines = placed.map(({ line, x, y, before, align }) => {
    const space = columnWidth - before - line.indentMm
    const pieces = aligned(line, align, space, setter)
    return { line, x: x + before + line.indentMm, y, widthMm: space, pieces }
  })
  const bottom = Math.max(0, ...lines.map(({ line, y }) => y + reachOf(line, setter).down))
  return { lines, initial, heightMm: bottom }
}

/** Lines of one column put into several, as equally high as lines allow. */
function inColumns(
  flow: Flow[],
  {
    columns,
    columnWidth,
    gutterMm,
    setter,
  }: { columns: number; columnWidth: number; gutterMm: number; setter: Setter },
): (Flow & { x: number })[] {
  if (columns === 1) return flow.map((one) => ({ ...one, x: 0 }))
  const extents = flow.map(({ line, y }) => {
    const { up, down } = reachOf(line, setter)
    return { top: y - up, foot: y + down }
  })
  const starts = balanced(extents, columns)
  return flow.map((one, i) => {
    const column = starts.findLastIndex((start) => start <= i)
    return {
      ...one,
      x: column * (columnWidth + gutterMm),
      y: one.y - (column ? extents[starts[column]].top : 0),
    }
  })
}

type Extent = { top: number; foot: number }

/** The first line of each column, so that the highest one is as low as can be. */
function balanced(lines: readonly Extent[], columns: number): number[] {
  const filled = (height: number): number[] => {
    const starts: number[] = []
    lines.forEach(({ foot }, i) => {
      if (!starts.length || foot - lines[starts[starts.length - 1]].top > height + 1e-9) starts.push(i)
    })
    return starts
  }
  let low = Math.max(0, ...lines.map(({ top, foot }) => foot - top))
  let high = lines.length ? lines[lines.length - 1].foot - lines[0].top : 0
  while (high - low > 1e-3) {
    const middle = (low + high) / 2
    if (filled(middle).length <= columns) high = middle
    else low = middle
  }
  return filled(high)
}

/** The pieces of a line where they come to stand. Lines set to the full width are parted at their spaces. */
function aligned(line: Line, align: Alignment, widthMm: number, setter: Setter): Piece[] {
  const free = widthMm - line.widthMm
  const shift = { left: 0, justified: 0, centre: free / 2, right: free }[align]
  const spaces = line.text.split(' ').length - 1
  if (align !== 'justified' || line.ends || spaces < 1 || free <= 0)
    return line.pieces.map((piece) => ({ ...piece, x: piece.x + shift }))
  return spread(line, free / spaces, setter)
}

/** Each word a piece of its own, so much farther from the one before than it was. */
function spread({ pieces }: Line, by: number, { fonts }: Setter): Piece[] {
  const out: Piece[] = []
  let moved = 0
  for (const piece of pieces) {
    let at = 0
    for (const word of piece.text.split(/(?<= )/)) {
      const end = at + word.length
      const start = at === 0 ? 0 : widthOf(fonts, piece.text.slice(0, at), piece.style)
      const text = word.trimEnd()
      if (text)
        out.push({ ...piece, text, x: piece.x + start + moved, widthMm: widthOf(fonts, text, piece.style) })
      if (word.endsWith(' ')) moved += by
      at = end
    }
  }
  return out
}

/** The first letter, so large that its capitals reach from the first line to the foot of the last one beside it. */
function takeInitial(
  runs: readonly Run[],
  { fonts, style }: Setter,
  { initialLines, leading }: SettingOfParagraphs,
): { initial: Initial | null; rest: readonly Run[] } {
  const [first] = runs
  const letter = first?.text.match(/^\p{L}/u)?.[0]
  if (initialLines < 2 || !letter) return { initial: null, rest: runs }
  const own = setLook(style, {})
  const { ascentMm, capHeightMm } = verticalMetrics(fonts, own.style)
  const height = (initialLines - 1) * leading * own.style.sizeMm + capHeightMm
  const set = setLook(style, first.look)
  const sized = { ...set, style: { ...set.style, sizeMm: (own.style.sizeMm * height) / capHeightMm } }
  const widthMm = widthOf(fonts, letter, sized.style)
  const rest = [{ ...first, text: first.text.slice(letter.length) }, ...runs.slice(1)]
  return {
    initial: {
      piece: { ...sized, text: letter, x: 0, widthMm },
      x: 0,
      y: ascentMm + (initialLines - 1) * leading * own.style.sizeMm,
      widthMm,
    },
    rest,
  }
}
