import { lineStyle, type TypeStyle } from '../type-style'
import type { TextFont, TextStyle } from '@/core/scene/text'
import type { Alignment, RunLook, Span } from './spec'

/** A stretch of text with one look. */
export type Run = { text: string; look: RunLook }

/** How a run is set: its lettering, its colour, and how far it is raised above the baseline, mm. */
export type SetLook = { style: TextStyle; colour: string; riseMm: number }

const noLook: RunLook = {}

/** Raised and lowered letters, as shares of the type size. */
const script = { size: 0.62, super: 0.36, sub: -0.16 }

export function setLook(base: TypeStyle, look: RunLook): SetLook {
  const full: TypeStyle = {
    ...base,
    family: look.family ?? base.family,
    weight: look.weight ?? base.weight,
    italic: look.italic ?? base.italic,
    sizePt: look.sizePt ?? base.sizePt,
    letterSpacingPt: look.letterSpacingPt ?? base.letterSpacingPt,
    colour: look.colour ?? base.colour,
  }
  const style = lineStyle(full)
  if (!look.script) return { style, colour: full.colour, riseMm: 0 }
  return {
    style: { ...style, sizeMm: style.sizeMm * script.size },
    colour: full.colour,
    riseMm: style.sizeMm * script[look.script],
  }
}

const sameLook = (a: RunLook, b: RunLook): boolean => JSON.stringify(a) === JSON.stringify(b)

/** A text cut at the ends of its spans; of spans that lie over each other the later ones say more. */
export function runsOf(text: string, spans: readonly Span[]): Run[] {
  const cuts = new Set([0, text.length])
  for (const { from, to } of spans) {
    if (from < text.length) cuts.add(from)
    if (to < text.length) cuts.add(to)
  }
  const at = [...cuts].sort((a, b) => a - b)
  const runs: Run[] = []
  at.slice(1).forEach((end, i) => {
    const start = at[i]
    const covering = spans.filter(({ from, to }) => from <= start && to >= end)
    const look = covering.length ? Object.assign({}, ...covering.map((span) => span.look)) : noLook
    const last = runs.at(-1)
    if (last && sameLook(last.look, look)) last.text += text.slice(start, end)
    else runs.push({ text: text.slice(start, end), look })
  })
  return runs
}

/**
 * The spans of a text after it was changed by typing: what stands before and behind the change keeps its look, and
 * what was typed has that of the letter before it.
 */
export function spansAfter(before: string, after: string, spans: readonly Span[]): Span[] {
  const most = Math.min(before.length, after.length)
  let head = 0
  while (head < most && before[head] === after[head]) head++
  let tail = 0
  while (tail < most - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++
  const [end, by] = [before.length - tail, after.length - before.length]
  const moved = (place: number, isEnd: boolean): number => {
    if (place < head || (place === head && !isEnd)) return place
    if (place >= end) return place + by
    return isEnd ? head + Math.max(0, end + by - head) : Math.max(head, end + by)
  }
  return spans
    .map((span) => ({ ...span, from: moved(span.from, false), to: moved(span.to, true) }))
    .filter(({ from, to }) => to > from)
}

/**
 * How single paragraphs are set after the text was changed by typing: those before and behind the change stay as they
 * were, and what is new is set as the paragraph in which the change began.
 */
export function alignEachAfter(
  before: string,
  after: string,
  alignEach: readonly (Alignment | null)[],
): (Alignment | null)[] {
  if (!alignEach.length) return []
  const [old, now] = [before.split('\n'), after.split('\n')]
  const most = Math.min(old.length, now.length)
  let head = 0
  while (head < most && old[head] === now[head]) head++
  let tail = 0
  while (tail < most - head && old[old.length - 1 - tail] === now[now.length - 1 - tail]) tail++
  const alignAt = (p: number): Alignment | null => alignEach[p] ?? null
  return now.map((_, p) => {
    if (p < head) return alignAt(p)
    if (p >= now.length - tail) return alignAt(p - now.length + old.length)
    return alignAt(Math.min(head, old.length - 1))
  })
}

/** All typefaces that a text with spans needs. */
export const fontsOf = (base: TypeStyle, spans: readonly Span[]): TextFont[] => [
  lineStyle(base).font,
  ...spans.map(({ look }) => setLook(base, look).style.font),
]
