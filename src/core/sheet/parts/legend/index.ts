import { z } from 'zod'
import { sortedKeys } from '@/core/data/sorted-record'
import { drawLegend, type LegendLook } from '@/core/legend/draw-legend'
import { legendLines, type LegendLine } from '@/core/legend/entries'
import { rectangle } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { group, path, translate } from '@/core/scene/scene'
import type { PartBox, PartType, SheetContext } from '../../part'
import { lineStyle, TypeStyle } from '../../type-style'

export const LegendSettings = z.object({
  /** The panel it explains; null is the sheet's first. */
  panelId: z.string().nullable(),
  /** Wording that replaces what follows from the map, by line key. */
  words: z.record(z.string(), z.string()).overwrite(sortedKeys),
  hiddenLines: z.array(z.string()),
  lowFirst: z.boolean(),
  heading: TypeStyle,
  label: TypeStyle,
  swatchWidthMm: z.number().min(1).max(60),
  swatchHeightMm: z.number().min(1).max(60),
  gapMm: z.number().min(0).max(20),
  background: z.string().regex(/^#[0-9a-f]{6}$/i).nullable(),
  paddingMm: z.number().min(0).max(30),
})
export type LegendSettings = z.infer<typeof LegendSettings>

/** The lines that are shown, in order; with `lowFirst` off, each layer's classes run from high to low. */
export function shownLines(settings: LegendSettings, context: SheetContext): LegendLine[] {
  const panel = context.panel(settings.panelId)
  const map = context.maps.find((m) => m.id === panel?.settings.mapId)
  if (!map) return []
  const lines = legendLines(map, context.datasets, settings.words).filter((line) => !settings.hiddenLines.includes(line.key))
  return settings.lowFirst ? lines : highFirst(lines)
}

function highFirst(lines: LegendLine[]): LegendLine[] {
  const out: LegendLine[] = []
  for (let i = 0; i < lines.length; ) {
    const isClass = (line: LegendLine | undefined) => line?.item?.key.startsWith('class-') ?? false
    let end = i
    while (isClass(lines[end])) end++
    if (end > i) out.push(...lines.slice(i, end).reverse())
    else out.push(lines[end++])
    i = end
  }
  return out
}

const lookOf = (s: LegendSettings): LegendLook => ({
  heading: lineStyle(s.heading),
  headingColour: s.heading.colour,
  label: lineStyle(s.label),
  labelColour: s.label.colour,
  swatchWidthMm: s.swatchWidthMm,
  swatchHeightMm: s.swatchHeightMm,
  gapMm: s.gapMm,
  lowFirst: s.lowFirst,
})

/** The legend's lines where they lie on the page, for editing them in place. */
export function layOutLegend(settings: LegendSettings, box: PartBox, context: SheetContext) {
  const inner = Math.max(10, box.width - 2 * settings.paddingMm)
  return drawLegend(shownLines(settings, context), lookOf(settings), context.fonts, inner)
}

export const legend: PartType<LegendSettings> = {
  label: 'Legend',
  settings: LegendSettings,
  resize: 'width',
  measure(settings, box, context) {
    const laid = layOutLegend(settings, box, context)
    return { width: Math.max(box.width, laid.width + 2 * settings.paddingMm), height: Math.max(4, laid.height + 2 * settings.paddingMm) }
  },
  compose(settings, box, context, id) {
    const { nodes } = layOutLegend(settings, box, context)
    const ground = settings.background ? [path(rectangle({ ...box, ...legend.measure(settings, box, context) }), { fill: solid(settings.background) })] : []
    return [...ground, group(`${id} lines`, nodes, { transform: translate(box.x + settings.paddingMm, box.y + settings.paddingMm) })]
  },
  fonts: ({ heading, label }) => [lineStyle(heading).font, lineStyle(label).font],
}
