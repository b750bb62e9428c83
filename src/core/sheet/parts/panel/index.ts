import { composeMap } from '@/core/map/compose-map'
import { fitMap, roundScale } from '@/core/map/view'
import { kindOf } from '@/core/kinds/registry'
import type { Prepared } from '@/core/data/prepare'
import { rectangle, type Box } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { softEdge } from '@/core/scene/soft-edge'
import { labelFont } from '@/core/labels/lettering'
import { textNode, verticalMetrics, type TextFont } from '@/core/scene/text'
import type { MapSpec } from '@/core/map/spec'
import { pointsToMm } from '@/core/scene/units'
import { innerBox } from '../../page'
import { noRefs, renamed, type PartType, type SheetContext } from '../../part'
import { lineStyle } from '../../type-style'
import { drawFootprint } from './footprint'
import { insetsOf, shapeOutline } from './shape'
import { PanelSettings } from './spec'
import { variantWords } from './variant'

export const panel: PartType<PanelSettings> = {
  label: 'Panel',
  group: 'maps',
  settings: PanelSettings,
  resize: 'free',
  keepsLabelsOff: true,
  styles: ['caption'],
  measure: (_, { width, height }) => ({ width, height }),
  compose(settings, box, context, { id, name }) {
    const shown = context.panel(id)
    const { datasets, fonts, toleranceMm, over } = context
    if (shown?.id !== id) return [...groundOf(settings, box), ...frameLines(settings, box, context)]
    const { map, view, window } = shown
    const { background } = settings
    const drawn = composeMap({
      map: background ? { ...map, background } : map,
      view,
      window,
      datasets,
      fonts,
      toleranceMm,
      idPrefix: `${name} `,
      keepOff: over(id),
    })
    const prints = settings.footprints.flatMap((look) => {
      const other = context.panel(look.panelId)
      return other?.id === look.panelId && other.id !== id
        ? [drawFootprint(look, { panel: shown, other, round: other.round, name: `${name} footprint` })]
        : []
    })
    const marks = prints.flatMap(({ inside }) => inside)
    return [
      ...cutOut(settings, { name, box, map: drawn, marks }, context, id),
      ...frameLines(settings, box, context, id),
      ...captionOf(settings, box, context),
      ...prints.flatMap(({ joins }) => joins),
    ]
  },
  leansOn: ({ footprints, shape }, _, { datasets, over, panel: shownIn }, { id }) => [
    shownIn(id)?.map ?? null,
    shownIn(id)?.view ?? null,
    datasets,
    shape.by === 'area' ? datasets.get(shape.datasetId) : null,
    ...over(id).flatMap(({ x, y, width, height }) => [x, y, width, height]),
    ...footprints.flatMap(({ panelId }) => {
      const other = shownIn(panelId)
      if (!other) return [null]
      const { x, y, width, height } = other.window
      return [
        other.map.projection,
        other.map.stretchedBy === null ? null : other.map.layers,
        other.view,
        other.name,
        other.round,
        other.frame.rotationDeg,
        x,
        y,
        width,
        height,
      ]
    }),
  ],
  fonts: ({ captioned, caption }) => (captioned ? [lineStyle(caption).font] : []),
  initial({ sheet, map, datasets }) {
    if (!map) return null
    const inner = innerBox(sheet)
    const box = {
      x: inner.x + inner.width / 4,
      y: inner.y + inner.height / 4,
      width: inner.width / 2,
      height: inner.height / 2,
    }
    return { box, settings: panelOf(map, datasets, box) }
  },
  refs: ({ mapId, sameScaleAs, samePlaceAs, footprints, shape, frozen }) => ({
    ...noRefs,
    maps: mapId === null ? [] : [mapId],
    parts: [sameScaleAs, samePlaceAs, ...footprints.map(({ panelId }) => panelId)].filter(
      (id) => id !== null,
    ),
    datasets: [
      ...(shape.by === 'area' ? [shape.datasetId] : []),
      ...(frozen?.map.layers.map(({ datasetId }) => datasetId) ?? []),
    ],
  }),
  remap: (settings, ids) => ({
    ...settings,
    mapId: settings.mapId === null ? null : renamed(ids.maps, settings.mapId),
    sameScaleAs: settings.sameScaleAs === null ? null : renamed(ids.parts, settings.sameScaleAs),
    samePlaceAs: settings.samePlaceAs === null ? null : renamed(ids.parts, settings.samePlaceAs),
    footprints: settings.footprints.map((one) => ({ ...one, panelId: renamed(ids.parts, one.panelId) })),
    shape:
      settings.shape.by === 'area'
        ? { ...settings.shape, datasetId: renamed(ids.datasets, settings.shape.datasetId) }
        : settings.shape,
    frozen: settings.frozen && {
      ...settings.frozen,
      map: mapOnDatasets(settings.frozen.map, (id) => renamed(ids.datasets, id)),
    },
  }),
}

/** What the panel shows otherwise than its map, in its top left corner. */
function captionOf({ captioned, caption, variant }: PanelSettings, box: Box, context: SheetContext): Node[] {
  if (!captioned || !variant) return []
  const layers = context.panels.flatMap((panel) => panel.layers)
  const drawn = layers.find(({ layer }) => layer.id === variant.layerId)
  const style = lineStyle(caption)
  const { ascentMm } = verticalMetrics(context.fonts, style)
  const halo = { colour: '#ffffff', widthMm: style.sizeMm * 0.12 }
  return [
    textNode(context.fonts, variantWords(variant, drawn ?? {}), style, {
      x: box.x + style.sizeMm * 0.4,
      y: box.y + ascentMm + style.sizeMm * 0.1,
      colour: caption.colour,
      halo: caption.colour.toLowerCase() === '#ffffff' ? null : halo,
    }),
  ]
}

/** A map that draws on other datasets. */
export const mapOnDatasets = (map: MapSpec, idOf: (id: string) => string): MapSpec => ({
  ...map,
  land: map.land && { ...map.land, datasetId: idOf(map.land.datasetId) },
  layers: map.layers.map((layer) => ({ ...layer, datasetId: idOf(layer.datasetId) })),
})

/** The settings of a panel that shows a map whole, at a round scale. */
export function panelOf(
  map: MapSpec,
  datasets: Map<string, Prepared>,
  box: { width: number; height: number },
): PanelSettings {
  const fitted = fitMap(map, datasets, box) ?? { centre: map.projection.centre, scaleDenominator: 10_000_000 }
  return PanelSettings.parse({
    mapId: map.id,
    view: { ...fitted, scaleDenominator: roundScale(fitted.scaleDenominator) },
    frame: { colour: '#8a979c', widthPt: 0 },
  })
}

const groundOf = ({ background }: PanelSettings, box: Box): Node[] =>
  background ? [path(rectangle(box), { fill: solid(background) })] : []

type Cut = { name: string; box: Box; map: Node; marks: Node[] }

/** The map cut to the panel's form, with what lies outside paled and the edge faded, as the settings say. */
function cutOut(
  settings: PanelSettings,
  { name, box, map, marks }: Cut,
  context: SheetContext,
  id: string,
): Node[] {
  const { shape, softEdgeMm } = settings
  const isPlainBox = shape.by === 'rectangle' && shape.cornerMm === 0
  const content = marks.length ? [map, group(`${name} marks`, marks, { clip: rectangle(box) })] : [map]
  const given = { shown: context.panel(id), ...context }
  const soft = softEdgeMm > 0 ? softEdge(insetsOf(shape, box, given), softEdgeMm) : null
  if (isPlainBox && !soft) return content
  const outline = shapeOutline(shape, box, given)
  const cut = group(`${name} cut`, content, { clip: outline, mask: soft })
  if (shape.by !== 'area' || shape.outside === 0) return [cut]
  return [group(`${name} outside`, [map], { opacity: shape.outside }), cut]
}

/** The lines along the edge, the first on the edge and the others inside it. */
function frameLines(settings: PanelSettings, box: Box, context: SheetContext, id?: string): Node[] {
  const { frame, shape } = settings
  const lines: Node[] = []
  const given = { shown: id === undefined ? null : context.panel(id), ...context }
  if (frame.widthPt > 0) {
    const outline = shapeOutline(shape, box, given)
    const drawn = path(outline, {
      strokes: [stroke(frame.colour, pointsToMm(frame.widthPt), { join: 'miter' })],
    })
    // The border of an area goes on outside the panel.
    lines.push(shape.by === 'area' ? group('frame', [drawn], { clip: rectangle(box) }) : drawn)
  }
  if (!frame.more.length) return lines
  const insets = insetsOf(shape, box, given)
  let inset = pointsToMm(frame.widthPt) / 2
  for (const { colour, widthPt, gapPt } of frame.more) {
    const width = pointsToMm(widthPt)
    const at = inset + pointsToMm(gapPt) + width / 2
    if (widthPt > 0) lines.push(path(insets(at), { strokes: [stroke(colour, width, { join: 'miter' })] }))
    inset = at + width / 2
  }
  return lines
}

/** The typefaces of a map's own lettering. */
export const mapFonts = (map: MapSpec): TextFont[] => [
  ...map.layers.flatMap((layer) => [
    ...kindOf(layer.symbology.kind).fonts(layer.symbology.settings),
    ...(layer.labels ? [labelFont(layer.labels)] : []),
  ]),
  ...(map.graticule?.labels
    ? [{ family: map.graticule.labels.family, weight: 400 as const, italic: false }]
    : []),
]
