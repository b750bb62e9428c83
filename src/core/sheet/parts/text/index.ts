import { z } from 'zod'
import { breakLines, measureLine, textNode, verticalMetrics } from '@/core/scene/text'
import { innerBox } from '../../page'
import { noRefs, type PartBox, type PartType, type SheetContext } from '../../part'
import { lineStyle, TypeStyle } from '../../type-style'
import { inStyle } from '../../type-styles'

export const TextSettings = z.object({
  text: z.string().max(20_000),
  style: TypeStyle,
  align: z.enum(['left', 'centre', 'right']),
  /** Distance of baselines as a multiple of the type size. */
  leading: z.number().min(0.7).max(3),
})
export type TextSettings = z.infer<typeof TextSettings>

const linesOf = ({ text, style }: TextSettings, box: PartBox, { fonts, fill }: SheetContext): string[] =>
  breakLines(fonts, fill(text), lineStyle(style), box.width)

/** Text in a frame: lines break at the frame's width; text that is longer than the frame runs on below it. */
export const text: PartType<TextSettings> = {
  label: 'Text',
  group: 'words',
  keepsLabelsOff: true,
  styles: ['style'],
  refs: () => noRefs,
  remap: (settings) => settings,
  initial({ sheet }) {
    const { x, y, width } = innerBox(sheet)
    return {
      box: { x, y, width: Math.min(80, width), height: 6 },
      settings: { text: 'Text', style: inStyle('body'), align: 'left', leading: 1.25 },
    }
  },
  settings: TextSettings,
  resize: 'width',
  measure(settings, box, context) {
    const style = lineStyle(settings.style)
    const { ascentMm, descentMm } = verticalMetrics(context.fonts, style)
    return {
      width: box.width,
      height:
        ascentMm + descentMm + (linesOf(settings, box, context).length - 1) * settings.leading * style.sizeMm,
    }
  },
  compose(settings, box, context) {
    const style = lineStyle(settings.style)
    const { ascentMm } = verticalMetrics(context.fonts, style)
    const anchor = ({ left: 'start', centre: 'middle', right: 'end' } as const)[settings.align]
    const x = box.x + { start: 0, middle: box.width / 2, end: box.width }[anchor]
    return linesOf(settings, box, context)
      .map((line, i) => ({ line, y: box.y + ascentMm + i * settings.leading * style.sizeMm }))
      .filter(({ line }) => measureLine(context.fonts, line, style).runs.length > 0)
      .map(({ line, y }) =>
        textNode(context.fonts, line, style, { x, y, anchor, colour: settings.style.colour }),
      )
  },
  leansOn: ({ text }, _, { fill }) => [fill(text)],
  fonts: ({ style }) => [lineStyle(style).font],
}
