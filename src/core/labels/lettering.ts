import {
  breakLines,
  measureLine,
  textNode,
  verticalMetrics,
  type FontBook,
  type TextStyle,
} from '@/core/scene/text'
import type { TextFont } from '@/core/scene/fonts'
import type { Text } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import type { LabelSettings } from './spec'

/** Small capitals are capitals of this share of the size: the fonts that ship have none of their own. */
export const smallCapital = 0.78

/** A stretch of one line in one size. */
type Stretch = { text: string; style: TextStyle; xMm: number; widthMm: number }
type Line = { stretches: Stretch[]; widthMm: number }

/**
 * A label with its lines laid out, in millimetres. `heightMm` runs from the top of the capitals to the last
 * baseline.
 */
export type Block = {
  text: string
  lines: Line[]
  widthMm: number
  heightMm: number
  capMm: number
  descentMm: number
  stepMm: number
  sizeMm: number
}

export const labelFont = ({
  family,
  weight,
  italic,
}: Pick<LabelSettings, 'family' | 'weight' | 'italic'>): TextFont => ({ family, weight, italic })

/** Parts of a text that are set in full size and in that of small capitals. */
export function cased(text: string, capitals: LabelSettings['capitals']): { text: string; share: number }[] {
  if (capitals === 'as written') return [{ text, share: 1 }]
  if (capitals === 'capitals') return [{ text: text.toUpperCase(), share: 1 }]
  const parts: { text: string; share: number }[] = []
  for (const letter of text) {
    const asBefore = letter === ' ' ? parts.at(-1)?.share : undefined
    const share = letter === letter.toUpperCase() ? (asBefore ?? 1) : smallCapital
    const last = parts.at(-1)
    if (last?.share === share) last.text += letter.toUpperCase()
    else parts.push({ text: letter.toUpperCase(), share })
  }
  return parts
}

/** One line of a label in its stretches. */
export function layOutLine(
  fonts: FontBook,
  text: string,
  settings: LabelSettings,
  { sizeMm, spacingMm = settings.spacing * sizeMm }: { sizeMm: number; spacingMm?: number },
): Line {
  let xMm = 0
  const stretches = cased(text, settings.capitals).map(({ text: part, share }, i) => {
    if (i) xMm += spacingMm
    const style: TextStyle = { font: labelFont(settings), sizeMm: sizeMm * share, letterSpacingMm: spacingMm }
    const { widthMm } = measureLine(fonts, part, style)
    const stretch = { text: part, style, xMm, widthMm }
    xMm += widthMm
    return stretch
  })
  return { stretches, widthMm: xMm }
}

/** Lays out a label; `widest` breaks its lines at blanks. */
export function layOutLabel(
  fonts: FontBook,
  text: string,
  settings: LabelSettings,
  { sizePt, widest = settings.breakAtMm }: { sizePt: number; widest?: number | null },
): Block {
  const sizeMm = pointsToMm(sizePt)
  const style: TextStyle = { font: labelFont(settings), sizeMm, letterSpacingMm: settings.spacing * sizeMm }
  const broken = widest === null ? text.split('\n') : breakLines(fonts, text, style, widest)
  const lines = broken.map((line) => layOutLine(fonts, line, settings, { sizeMm }))
  const { capHeightMm, descentMm } = verticalMetrics(fonts, style)
  const stepMm = sizeMm * settings.leading
  return {
    text,
    lines,
    widthMm: Math.max(...lines.map(({ widthMm }) => widthMm)),
    heightMm: capHeightMm + (lines.length - 1) * stepMm,
    capMm: capHeightMm,
    descentMm,
    stepMm,
    sizeMm,
  }
}

/** The width at which a text falls into two lines of nearly the same length; null where it has no blank. */
export function halvingWidth(
  fonts: FontBook,
  text: string,
  settings: LabelSettings,
  sizePt: number,
): number | null {
  const words = text.split(' ')
  if (words.length < 2 || text.includes('\n')) return null
  const sizeMm = pointsToMm(sizePt)
  const style: TextStyle = { font: labelFont(settings), sizeMm, letterSpacingMm: settings.spacing * sizeMm }
  const width = (part: string[]): number => measureLine(fonts, part.join(' '), style).widthMm
  return (
    Math.min(
      ...words.slice(1).map((_, i) => Math.max(width(words.slice(0, i + 1)), width(words.slice(i + 1)))),
    ) + 1e-6
  )
}

export type Setting = { align: 'left' | 'middle' | 'right'; rotationDeg: number }

export const haloOf = ({ halo }: LabelSettings): Text['halo'] =>
  halo.widthPt > 0 ? { colour: halo.colour, widthMm: pointsToMm(halo.widthPt) } : null

/**
 * The text nodes of a block whose box (capitals to the last baseline) has its middle at (x, y), turned around
 * it.
 */
export function blockNodes(
  fonts: FontBook,
  block: Block,
  settings: LabelSettings,
  { x, y, setting }: { x: number; y: number; setting: Setting },
): Text[] {
  const { align, rotationDeg } = setting
  const angle = (rotationDeg * Math.PI) / 180
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
  return block.lines.flatMap((line, i) => {
    const left = {
      left: -block.widthMm / 2,
      middle: -line.widthMm / 2,
      right: block.widthMm / 2 - line.widthMm,
    }[align]
    const base = -block.heightMm / 2 + block.capMm + i * block.stepMm
    return line.stretches.map(({ text, style, xMm }) => {
      const dx = left + xMm
      return textNode(fonts, text, style, {
        x: x + dx * cos - base * sin,
        y: y + dx * sin + base * cos,
        colour: settings.colour,
        halo: haloOf(settings),
        rotationDeg,
      })
    })
  })
}
