import { z } from 'zod'
import type { Text } from '@/core/scene/scene'
import type { FontBook } from '@/core/scene/text'
import { mmToPoints, pointsToMm } from '@/core/scene/units'
import { createMemory, identity } from '@/core/memory/memory'
import { alongArc, drawGround, textsOf, withEffects } from '../../lettering/draw'
import { layOutText, type LaidText } from '../../lettering/lay-out'
import { fontsOf, runsOf, type Run } from '../../lettering/runs'
import { Effects, Ground, noEffects, noGround, SettingOfParagraphs, Span } from '../../lettering/spec'
import { innerBox } from '../../page'
import { tidyAngle } from '../../frame'
import {
  noRefs,
  type NewPart,
  type PartBox,
  type PartGiven,
  type PartType,
  type SheetContext,
} from '../../part'
import { TypeStyle } from '../../type-style'
import { inStyle } from '../../type-styles'

export const TextSettings = z.object({
  text: z.string().max(20_000),
  /** Stretches of the text that look different. */
  spans: z.array(Span).max(2000).default([]),
  style: TypeStyle,
  ...SettingOfParagraphs.shape,
  ground: Ground.default(noGround),
  effects: Effects.default(noEffects),
  /** At least so high, mm; the text then stands at its top, middle or bottom. */
  leastHeightMm: z.number().min(0).max(3000).default(0),
  vertical: z.enum(['top', 'middle', 'bottom']).default('top'),
  /** The radius of the circle along whose top (bottom where negative) each line runs; null for straight lines. */
  arcRadiusMm: z.number().min(-3000).max(3000).nullable().default(null),
})
export type TextSettings = z.infer<typeof TextSettings>

/** A text of which only what is needed is said. */
export const plainText = (
  given: Pick<TextSettings, 'text' | 'style'> & Partial<TextSettings>,
): TextSettings => TextSettings.parse({ align: 'left', leading: 1.25, ...given })

/** The runs of a text with its fill-ins filled in. */
const filledRuns = ({ text, spans }: TextSettings, { fill }: Pick<SheetContext, 'fill'>): Run[] =>
  runsOf(text, spans).map((run) => ({ ...run, text: fill(run.text) }))

const remember = createMemory<TextSettings, LaidText>('texts', { maxBytes: 16 * 2 ** 20 })

/** A text as its lines come to stand within the padding of its box, from (0, 0). */
export function laidText(
  settings: TextSettings,
  widthMm: number,
  context: Pick<SheetContext, 'fill' | 'fonts'>,
): LaidText {
  const runs = filledRuns(settings, context)
  const inner = Math.max(1, widthMm - 2 * settings.ground.paddingMm)
  const key = identity([inner, context.fonts, ...runs.map(({ text }) => text)])
  return remember(settings, key, () =>
    layOutText(runs, { fonts: context.fonts, style: settings.style }, settings, inner),
  )
}

const heightOf = (settings: TextSettings, laid: LaidText): number =>
  Math.max(settings.leastHeightMm, laid.heightMm + 2 * settings.ground.paddingMm)

/** Text in a frame: lines break at the frame's width; text that is longer than the frame runs on below it. */
export const text: PartType<TextSettings> = {
  label: 'Text',
  group: 'words',
  settings: TextSettings,
  resize: 'width',
  keepsLabelsOff: true,
  styles: ['style'],
  measure(settings, box, context) {
    const laid = laidText(settings, box.width, context)
    // Two hundredths of a millimetre less than nothing is no frame to take hold of.
    return { width: box.width, height: Math.max(0.1, heightOf(settings, laid)) }
  },
  compose(settings, box, context, { name }) {
    const { fonts } = context
    const laid = laidText(settings, box.width, context)
    const whole = { ...box, height: heightOf(settings, laid) }
    return [
      ...drawGround(settings.ground, whole),
      ...withEffects(setText(settings, laid, whole, fonts), settings.effects, { fonts, box: whole, name }),
    ]
  },
  leansOn: (settings, _, context) => filledRuns(settings, context).map(({ text }) => text),
  fonts: ({ style, spans }) => fontsOf(style, spans),
  initial({ sheet }) {
    const { x, y, width } = innerBox(sheet)
    return {
      box: { x, y, width: Math.min(80, width), height: 6 },
      settings: plainText({ text: 'Text', style: inStyle('body') }),
    }
  },
  ready: { Title: title, Credits: credits, Watermark: watermark },
  refs: () => noRefs,
  remap: (settings) => settings,
}

function title({ sheet, map }: PartGiven): NewPart<TextSettings> {
  const { x, y, width } = innerBox(sheet)
  return {
    box: { x, y, width, height: 12 },
    settings: plainText({ text: map?.name ?? 'Title', style: inStyle('title') }),
  }
}

/** Whose data are shown, each once, small in the lower right corner. */
function credits({ sheet }: PartGiven): NewPart<TextSettings> {
  const { x, y, width, height } = innerBox(sheet)
  const wide = Math.min(110, width)
  return {
    box: { x: x + width - wide, y: y + height - 3.5, width: wide, height: 3.5 },
    settings: plainText({
      text: '{{credits}}',
      align: 'right',
      style: inStyle('note', { sizePt: 5.5, named: null }),
    }),
  }
}

/** A pale word across the page, turned as its diagonal is. */
function watermark({ sheet: { page } }: PartGiven): NewPart<TextSettings> {
  const across = Math.hypot(page.widthMm, page.heightMm)
  const width = across * 0.45
  // Letters about a ninth of the diagonal high.
  const sizePt = Math.round(mmToPoints(across / 9))
  const height = pointsToMm(sizePt) * 1.3
  return {
    staysPut: true,
    rotationDeg: tidyAngle((-Math.atan2(page.heightMm, page.widthMm) * 180) / Math.PI),
    opacity: 0.12,
    box: { x: (page.widthMm - width) / 2, y: (page.heightMm - height) / 2, width, height },
    settings: plainText({
      text: 'Draft',
      align: 'centre',
      style: inStyle('title', {
        sizePt: Math.min(400, sizePt),
        named: null,
        letterSpacingPt: Math.min(50, sizePt / 12),
      }),
    }),
  }
}

/** The text nodes of a text in its frame. */
function setText(settings: TextSettings, laid: LaidText, box: PartBox, fonts: FontBook): Text[] {
  const { paddingMm } = settings.ground
  const free = box.height - 2 * paddingMm - laid.heightMm
  const down = { top: 0, middle: free / 2, bottom: free }[settings.vertical]
  const [x, y] = [box.x + paddingMm, box.y + paddingMm + down]
  const { arcRadiusMm } = settings
  if (!arcRadiusMm) return textsOf(laid, fonts, [x, y])
  return laid.lines.flatMap(({ line, x: left, y: baseline, widthMm }) =>
    line.pieces.flatMap((piece) => {
      const middle = x + left + widthMm / 2 + piece.x + piece.widthMm / 2 - line.widthMm / 2
      const set = alongArc(piece, fonts, { middle, y: y + baseline, radiusMm: arcRadiusMm })
      return (
        set ??
        textsOf(
          { lines: [{ line, x: left, y: baseline, widthMm, pieces: [piece] }], initial: null, heightMm: 0 },
          fonts,
          [x, y],
        )
      )
    }),
  )
}
