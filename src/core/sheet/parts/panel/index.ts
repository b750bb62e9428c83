import { composeMap } from '@/core/map/compose-map'
import { kindOf } from '@/core/kinds/registry'
import { rectangle } from '@/core/scene/outline'
import { stroke } from '@/core/scene/paint'
import { path } from '@/core/scene/scene'
import { labelFont } from '@/core/labels/lettering'
import { type TextFont } from '@/core/scene/text'
import type { MapSpec } from '@/core/map/spec'
import { pointsToMm } from '@/core/scene/units'
import type { PartType } from '../../part'
import { PanelSettings } from './spec'

export const panel: PartType<PanelSettings> = {
  label: 'Panel',
  settings: PanelSettings,
  resize: 'free',
  measure: (_, { width, height }) => ({ width, height }),
  compose({ frame }, box, { datasets, fonts, toleranceMm, over, panel: shownIn }, { id, name }) {
    const shown = shownIn(id)
    const outline = rectangle(box)
    const edge =
      frame.widthPt > 0
        ? [path(outline, { strokes: [stroke(frame.colour, pointsToMm(frame.widthPt), { join: 'miter' })] })]
        : []
    if (shown?.id !== id) return edge
    const { map, view, window } = shown
    const keepOff = over(id)
    return [
      composeMap({ map, view, window, datasets, fonts, toleranceMm, idPrefix: `${name} `, keepOff }),
      ...edge,
    ]
  },
  leansOn: (_, __, { datasets, over, panel: shownIn }, { id }) => [
    shownIn(id)?.map ?? null,
    datasets,
    ...over(id).flatMap(({ x, y, width, height }) => [x, y, width, height]),
  ],
  fonts: () => [],
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
