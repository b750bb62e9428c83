import { measureLine, verticalMetrics, type FontBook } from '@/core/scene/text'
import type { TypeStyle } from '../type-style'
import { syllablesOf } from './hyphens'
import { setLook, type Run, type SetLook } from './runs'
import type { RunLook, SettingOfParagraphs } from './spec'

/** A piece of a line with one look; `x` is where it begins, mm from the start of the line. */
export type Piece = SetLook & { text: string; x: number; widthMm: number }

/** A line as it is set. `spaces` are gaps that may grow, when it is set to the full width. */
export type Line = { pieces: Piece[]; widthMm: number; ends: boolean; indentMm: number; text: string }

type Word = { runs: Run[]; text: string }

/** The words of a paragraph, each with the looks of its letters. Several spaces count as one. */
function wordsOf(runs: readonly Run[]): Word[] {
  const words: Word[] = []
  let open = false
  for (const { text, look } of runs)
    for (const [i, piece] of text.split(/ +/).entries()) {
      if (i > 0) open = false
      if (piece === '' && (i > 0 || open)) continue
      const last = words.at(-1)
      if (open && last) {
        last.runs.push({ text: piece, look })
        last.text += piece
      } else if (piece !== '') words.push({ runs: [{ text: piece, look }], text: piece })
      open = piece !== '' || open
    }
  return words
}

/** Cuts the first letters off a word. */
function cutWord({ runs, text }: Word, length: number): [Word, Word] {
  const [before, after]: [Run[], Run[]] = [[], []]
  let at = 0
  for (const run of runs) {
    const cut = Math.max(0, Math.min(run.text.length, length - at))
    if (cut > 0) before.push({ ...run, text: run.text.slice(0, cut) })
    if (cut < run.text.length) after.push({ ...run, text: run.text.slice(cut) })
    at += run.text.length
  }
  return [
    { runs: before, text: text.slice(0, length) },
    { runs: after, text: text.slice(length) },
  ]
}

const sameLook = (a: RunLook, b: RunLook): boolean => a === b || JSON.stringify(a) === JSON.stringify(b)

/** Words joined by spaces, neighbours of one look together, so that they are measured and written as one. */
function joined(words: readonly Word[], hyphen: boolean): Run[] {
  const runs: Run[] = []
  words.forEach((word, i) => {
    word.runs.forEach((run, j) => {
      const last = runs.at(-1)
      const space = i > 0 && j === 0 ? ' ' : ''
      if (last && sameLook(last.look, run.look)) last.text += space + run.text
      else {
        if (last && space) last.text += space
        runs.push({ text: run.text, look: run.look })
      }
    })
  })
  const last = runs.at(-1)
  if (hyphen && last) last.text += '-'
  return runs
}

type Setting = Pick<SettingOfParagraphs, 'hyphenate' | 'indentMm'>

/** Whoever breaks lines: the fonts and the style of the text. */
export type Setter = { fonts: FontBook; style: TypeStyle }

function piecesOf(runs: readonly Run[], { fonts, style }: Setter): { pieces: Piece[]; widthMm: number } {
  let x = 0
  const pieces = runs.map(({ text, look }): Piece => {
    const set = setLook(style, look)
    const { widthMm } = measureLine(fonts, text, set.style)
    const piece = { ...set, text, x, widthMm }
    x += widthMm
    return piece
  })
  return { pieces, widthMm: x }
}

/**
 * Breaks one paragraph into lines, each as full as it can be; `widthOf` says how wide the n-th line of the text may
 * be. A longer word is parted at a syllable where a language is given, else it gets a line of its own.
 */
export function breakParagraph(
  runs: readonly Run[],
  setter: Setter,
  { hyphenate, indentMm }: Setting,
  widthOf: (line: number) => number,
): Line[] {
  const lines: Line[] = []
  let words: Word[] = []
  const widthFor = (line: readonly Word[], hyphen = false): number =>
    piecesOf(joined(line, hyphen), setter).widthMm
  const room = (): number => widthOf(lines.length) - (lines.length === 0 ? indentMm : 0) + 1e-6
  const finish = (hyphen: boolean, ends: boolean): void => {
    const set = piecesOf(joined(words, hyphen), setter)
    const text = words.map((word) => word.text).join(' ') + (hyphen ? '-' : '')
    lines.push({ ...set, ends, indentMm: lines.length === 0 ? indentMm : 0, text })
    words = []
  }
  const queue = wordsOf(runs)
  while (queue.length) {
    const [word] = queue
    if (widthFor([...words, word]) <= room()) {
      words.push(word)
      queue.shift()
      continue
    }
    const part = hyphenate ? partThatFits(word, words, { widthFor, room: room(), hyphenate }) : null
    if (part) {
      queue.splice(0, 1, part[1])
      words.push(part[0])
      finish(true, false)
    } else if (words.length) finish(false, false)
    else {
      words.push(word)
      queue.shift()
      if (queue.length) finish(false, false)
    }
  }
  finish(false, true)
  return lines
}

/** The longest beginning of a word that still fits onto a line with a hyphen behind it; null for none. */
function partThatFits(
  word: Word,
  before: readonly Word[],
  {
    widthFor,
    room,
    hyphenate,
  }: {
    widthFor: (line: readonly Word[], hyphen?: boolean) => number
    room: number
    hyphenate: NonNullable<Setting['hyphenate']>
  },
): [Word, Word] | null {
  const syllables = syllablesOf(word.text, hyphenate)
  for (let count = syllables.length - 1; count > 0; count--) {
    const length = syllables.slice(0, count).join('').length
    const [head, tail] = cutWord(word, length)
    if (widthFor([...before, head], true) <= room) return [head, tail]
  }
  return null
}

/** The runs of each paragraph. */
export function paragraphsOf(runs: readonly Run[]): Run[][] {
  const paragraphs: Run[][] = [[]]
  for (const { text, look } of runs)
    for (const [i, piece] of text.split('\n').entries()) {
      if (i > 0) paragraphs.push([])
      if (piece) paragraphs[paragraphs.length - 1].push({ text: piece, look })
    }
  return paragraphs
}

/** How high a line reaches above and below its baseline, mm; at least as the text's own style does. */
export function reachOf(
  { pieces }: Pick<Line, 'pieces'>,
  { fonts, style }: Setter,
): { up: number; down: number; size: number } {
  const own = setLook(style, {})
  const all = [{ ...own, riseMm: 0 }, ...pieces]
  const metrics = all.map((piece) => ({ ...verticalMetrics(fonts, piece.style), rise: piece.riseMm }))
  return {
    up: Math.max(...metrics.map(({ ascentMm, rise }) => ascentMm + rise)),
    down: Math.max(...metrics.map(({ descentMm, rise }) => descentMm - rise)),
    size: Math.max(...all.filter(({ riseMm }) => riseMm === 0).map((piece) => piece.style.sizeMm)),
  }
}
