import { z } from 'zod'
import { PlaceMm } from '@/core/scene/bounded'
import { Hex } from '@/core/scene/hex'
import { sortedKeys } from '@/core/registry/sorted-record'
import { drawLegend } from '@/core/legend/draw-legend'
import { legendForms, type LegendLook } from '@/core/legend/look'
import {
  legendBlocks,
  linesOf,
  type ExplainedLayer,
  type Explanation,
  type LegendBlock,
  type LegendLine,
} from '@/core/legend/entries'
import { featuresInView } from '@/core/map/features-in-view'
import { rectangle } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { group, path, translate } from '@/core/scene/scene'
import { createMemory, identity } from '@/core/memory/memory'
import { innerBox } from '../../page'
import {
  noRefs,
  renamed,
  type ExplainedFigure,
  type PanelView,
  type PartBox,
  type PartType,
  type SheetContext,
} from '../../part'
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
  /** Panels that it explains besides, by id; what they have in common is explained once. */
  alsoPanels: z.array(z.string()).max(64).default([]),
  /** Parts that show figures of their own and are explained besides, by id; without a panel they stand alone. */
  figures: z.array(z.string()).max(64).default([]),
  /** Layers that it leaves out, by id. */
  hiddenLayers: z.array(z.string()).default([]),
  /** Whether classes and categories are left out that do not occur in the panel's extent. */
  onlySeen: z.boolean().default(false),
  /** Words above all entries; empty for none. */
  title: z.string().max(200).default(''),
  titleStyle: TypeStyle.default(() => inStyle('heading')),
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
  return legendBlocks(explainedLayers(settings, context), settings.words, {
    hidden: settings.hiddenLines,
    figures: explanations(settings, context),
  })
}

/** All lines that could be shown, hidden ones too. */
export const allLines = (settings: LegendSettings, context: SheetContext): LegendLine[] =>
  linesOf(
    legendBlocks(explainedLayers(settings, context), settings.words, {
      figures: explanations(settings, context),
    }),
  )

const explanations = (settings: LegendSettings, context: SheetContext): Explanation[] =>
  explainedFigures(settings, context).flatMap(({ id, entry: reckon }) => {
    const entry = reckon()
    return entry ? [{ id, entry }] : []
  })

const explainedFigures = ({ figures }: LegendSettings, { figure }: SheetContext): ExplainedFigure[] =>
  figures.flatMap((id) => figure(id) ?? [])

/** The panels that a legend explains, each once. */
export function explainedPanels(
  {
    panelId,
    alsoPanels,
    figures = [],
  }: Pick<LegendSettings, 'panelId' | 'alsoPanels'> & { figures?: string[] },
  { panel }: Pick<SheetContext, 'panel'>,
): PanelView[] {
  // A panel that is gone is not replaced by the first one, as it is where none is named.
  const also = alsoPanels.flatMap((id) => {
    const found = panel(id)
    return found?.id === id ? [found] : []
  })
  return [
    ...new Map(
      [figures.length && panelId === null ? null : panel(panelId), ...also].flatMap((one) =>
        one ? [[one.id, one]] : [],
      ),
    ).values(),
  ]
}

function explainedLayers(settings: LegendSettings, context: SheetContext): ExplainedLayer[] {
  return explainedPanels(settings, context).flatMap((panel) =>
    panel.layers
      .filter(({ layer }) => !settings.hiddenLayers.includes(layer.id))
      .map((drawn) => ({
        ...drawn,
        panelId: panel.id,
        view: { scaleDenominator: panel.view.scaleDenominator, mmPerMetre: panel.to.mmPerMetre },
        ...(settings.onlySeen && { seen: featuresInView(drawn.prepared.dataset.geometry, panel) }),
      })),
  )
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
  title: s.title ? { text: s.title, style: lineStyle(s.titleStyle), colour: s.titleStyle.colour } : null,
  note: s.note,
})

const rememberLayout = createMemory<LegendSettings, ReturnType<typeof drawLegend>>('legends', {
  maxBytes: 4 * 2 ** 20,
})

/** The legend's lines where they lie on the page, from its own top left corner, for editing them in place. */
export function layOutLegend(settings: LegendSettings, box: PartBox, context: SheetContext) {
  const inner = Math.max(10, box.width - 2 * settings.paddingMm)
  const leaning = whatIsSeen(settings, context)
  return rememberLayout(settings, identity([inner, context.fonts, ...leaning]), () =>
    drawLegend(shownBlocks(settings, context), lookOf(settings), context.fonts, inner),
  )
}

/** What decides which layers its panels show and what they say; where a panel lies matters only for what is seen. */
const whatIsSeen = (settings: LegendSettings, context: SheetContext): unknown[] => [
  context.datasets,
  ...explainedFigures(settings, context).flatMap(({ leaning }) => leaning),
  ...explainedPanels(settings, context).flatMap(({ id, map, view, to, window, round }) =>
    settings.onlySeen
      ? [id, map, view, window.width, window.height, round]
      : [id, map, view.scaleDenominator, to.mmPerMetre],
  ),
]

export const legend: PartType<LegendSettings> = {
  label: 'Legend',
  group: 'maps',
  keepsLabelsOff: true,
  styles: ['titleStyle', 'heading', 'label'],
  refs: ({ panelId, alsoPanels, figures }) => ({
    ...noRefs,
    parts: [...(panelId === null ? [] : [panelId]), ...alsoPanels, ...figures],
  }),
  remap: (settings, ids) => ({
    ...settings,
    panelId: settings.panelId === null ? null : renamed(ids.parts, settings.panelId),
    alsoPanels: settings.alsoPanels.map((id) => renamed(ids.parts, id)),
    figures: settings.figures.map((id) => renamed(ids.parts, id)),
  }),
  initial({ sheet }) {
    const { x, y, height } = innerBox(sheet)
    // A sheet without panels may have figures that want one.
    const alone = !sheet.parts.some(({ type }) => type === 'panel')
    const figures = alone ? sheet.parts.filter(({ type }) => type === 'treemap').map(({ id }) => id) : []
    return {
      box: { x: x + 5, y: y + height * 0.2, width: 55, height: 40 },
      settings: plainLegend({ figures }),
    }
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
  leansOn: (settings, _, context) => whatIsSeen(settings, context),
  fonts: ({ title, titleStyle, heading, label }) => [
    ...(title ? [lineStyle(titleStyle).font] : []),
    lineStyle(heading).font,
    lineStyle(label).font,
  ],
}
