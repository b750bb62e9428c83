import { z } from 'zod'
import { PlaceMm } from '@/core/scene/bounded'
import { Hex } from '@/core/scene/hex'
import { sortedKeys } from '@/core/registry/sorted-record'
import { drawLegend } from '@/core/legend/draw-legend'
import { legendForms, type LegendLook } from '@/core/legend/look'
import { legendBlocks, type LegendBlock } from '@/core/legend/entries'
import { rectangle } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { group, path, translate } from '@/core/scene/scene'
import { createMemory, identity } from '@/core/memory/memory'
import { innerBox } from '../../page'
import { noRefs, renamed, type PanelView, type PartBox, type PartType, type SheetContext } from '../../part'
import { lineStyle, TypeStyle } from '../../type-style'
import { inStyle } from '../../type-styles'

export const LegendSettings = z.object({
  /** The panel it explains; null is the sheet's first. */
  panelId: z.string().nullable(),
  /** Wording that replaces what follows from the map, by line key. */
  words: z.record(z.string(), z.string()).overwrite(sortedKeys),
  /**
   * What the map proposed when a wording was changed, by line key: another proposal means that the wording
   * may no longer fit.
   */
  wordsFor: z.record(z.string(), z.string()).overwrite(sortedKeys).default({}),
  hiddenLines: z.array(z.string()),
  /** Lines moved by hand, millimetres from where they would stand, by line key. */
  moved: z
    .record(z.string(), z.tuple([PlaceMm, PlaceMm]))
    .overwrite(sortedKeys)
    .default({}),
  /** Words below all entries; empty for none. */
  note: z.string().max(500).default(''),
  lowFirst: z.boolean(),
  form: z.enum(legendForms).default('upright'),
  labelsAt: z.enum(['classes', 'limits']).default('classes'),
  columns: z.number().int().min(1).max(6).default(1),
  heading: TypeStyle,
  label: TypeStyle,
  swatchWidthMm: z.number().min(1).max(60),
  swatchHeightMm: z.number().min(1).max(60),
  gapMm: z.number().min(0).max(20),
  background: Hex.nullable(),
  paddingMm: z.number().min(0).max(30),
})
export type LegendSettings = z.infer<typeof LegendSettings>

/** The settings of a new legend. */
export const plainLegend = (more: Partial<LegendSettings> = {}): LegendSettings =>
  LegendSettings.parse({
    panelId: null,
    words: {},
    hiddenLines: [],
    lowFirst: true,
    heading: inStyle('legend-heading'),
    label: inStyle('legend-label'),
    swatchWidthMm: 9,
    swatchHeightMm: 5,
    gapMm: 0,
    background: null,
    paddingMm: 0,
    ...more,
  })

/** What is shown, layer by layer. */
export function shownBlocks(settings: LegendSettings, context: SheetContext): LegendBlock[] {
  const panel = context.panel(settings.panelId)
  return panel ? legendBlocks(panel.layers, settings.words, settings.hiddenLines) : []
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
  form: s.form,
  labelsAt: s.labelsAt,
  columns: s.columns,
  moved: s.moved,
  note: s.note,
})

const rememberLayout = createMemory<LegendSettings, ReturnType<typeof drawLegend>>('legends', {
  maxBytes: 16 * 2 ** 20,
})

/** The legend's lines where they lie on the page, from its own top left corner, for editing them in place. */
export function layOutLegend(settings: LegendSettings, box: PartBox, context: SheetContext) {
  const inner = Math.max(10, box.width - 2 * settings.paddingMm)
  const leaning = whatIsSeen(context.panel(settings.panelId), context)
  return rememberLayout(settings, identity([inner, context.fonts, ...leaning]), () =>
    drawLegend(shownBlocks(settings, context), lookOf(settings), context.fonts, inner),
  )
}

/** What decides which layers a panel shows and what they say, apart from where the panel lies. */
const whatIsSeen = (panel: PanelView | null, { datasets }: SheetContext): unknown[] => [
  panel?.map ?? null,
  panel?.view.scaleDenominator ?? null,
  datasets,
]

export const legend: PartType<LegendSettings> = {
  label: 'Legend',
  group: 'maps',
  keepsLabelsOff: true,
  styles: ['heading', 'label'],
  refs: ({ panelId }) => ({ ...noRefs, parts: panelId === null ? [] : [panelId] }),
  remap: (settings, ids) => ({
    ...settings,
    panelId: settings.panelId === null ? null : renamed(ids.parts, settings.panelId),
  }),
  initial({ sheet }) {
    const { x, y, height } = innerBox(sheet)
    return { box: { x: x + 5, y: y + height * 0.2, width: 55, height: 40 }, settings: plainLegend() }
  },
  settings: LegendSettings,
  resize: 'width',
  measure(settings, box, context) {
    const laid = layOutLegend(settings, box, context)
    return {
      width: Math.max(box.width, laid.width + 2 * settings.paddingMm),
      height: Math.max(4, laid.height + 2 * settings.paddingMm),
    }
  },
  compose(settings, box, context, { name }) {
    const { nodes } = layOutLegend(settings, box, context)
    const ground = settings.background
      ? [
          path(rectangle({ ...box, ...legend.measure(settings, box, context) }), {
            fill: solid(settings.background),
          }),
        ]
      : []
    return [
      ...ground,
      group(`${name} lines`, nodes, {
        transform: translate(box.x + settings.paddingMm, box.y + settings.paddingMm),
      }),
    ]
  },
  leansOn: ({ panelId }, _, context) => whatIsSeen(context.panel(panelId), context),
  fonts: ({ heading, label }) => [lineStyle(heading).font, lineStyle(label).font],
}
