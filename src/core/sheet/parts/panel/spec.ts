import { z } from 'zod'
import { MapSpec, MapView } from '@/core/map/spec'
import { ProjectionSpec } from '@/core/projection/catalogue'
import { Hex } from '@/core/scene/hex'
import { TypeStyle } from '../../type-style'
import { inStyle } from '../../type-styles'

/**
 * The form of a panel. Corners of a polygon are fractions of the box, from its top left. *Cut to an area* shows
 * what lies in the features of a dataset whose text of a field is one of `values`; what lies outside may be left
 * to be seen, paled.
 */
export const PanelShape = z.discriminatedUnion('by', [
  z.object({ by: z.literal('rectangle'), cornerMm: z.number().min(0).max(500) }),
  z.object({ by: z.literal('ellipse') }),
  z.object({
    by: z.literal('polygon'),
    corners: z
      .array(z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]))
      .min(3)
      .max(200),
  }),
  z.object({
    by: z.literal('area'),
    datasetId: z.string(),
    field: z.string(),
    values: z.array(z.string()),
    /** How much of what lies outside is left to be seen: 0 nothing, 1 all. */
    outside: z.number().min(0).max(1),
  }),
])
export type PanelShape = z.infer<typeof PanelShape>

/** One line along the edge of a panel; several lie side by side, from the edge inwards. */
export const FrameLine = z.object({
  colour: Hex,
  widthPt: z.number().min(0).max(20),
  gapPt: z.number().min(0).max(40),
})
export type FrameLine = z.infer<typeof FrameLine>

/** The outline, in this panel, of what another one shows. */
export const Footprint = z.object({
  panelId: z.string(),
  fill: Hex.nullable(),
  fillOpacity: z.number().min(0).max(1),
  colour: Hex,
  widthPt: z.number().min(0).max(20),
  /** Thin lines from its corners to those of the other panel. */
  joined: z.boolean(),
})
export type Footprint = z.infer<typeof Footprint>

/**
 * What a panel shows otherwise than its map, as one of several small ones: a layer in another year of its series, with
 * another field, or with the rows alone whose text of a field is one value. Classes are those of the map.
 */
export const PanelVariant = z.discriminatedUnion('by', [
  z.object({ by: z.literal('year'), layerId: z.string(), year: z.number().int() }),
  z.object({ by: z.literal('field'), layerId: z.string(), field: z.string() }),
  /** This one layer of several; the others of them are left out. */
  z.object({ by: z.literal('layer'), layerId: z.string(), among: z.array(z.string()) }),
  z.object({ by: z.literal('value'), layerId: z.string(), field: z.string(), value: z.string() }),
])
export type PanelVariant = z.infer<typeof PanelVariant>

export const PanelSettings = z.object({
  /** The map it shows; null for a panel that waits for one. */
  mapId: z.string().nullable(),
  view: MapView,
  /** A projection in place of that of its map, as for what lies far off; a stretched map keeps its own. */
  projection: ProjectionSpec.nullable().default(null),
  /** The panel whose scale it takes over; null for its own. */
  sameScaleAs: z.string().nullable().default(null),
  /** The panel whose centre and turn it takes over; null for its own. */
  samePlaceAs: z.string().nullable().default(null),
  /** The map as it was, for a panel that does not follow its map; `at` is the moment, as ISO 8601 has it. */
  frozen: z.object({ at: z.string(), map: MapSpec }).nullable().default(null),
  variant: PanelVariant.nullable().default(null),
  /** Whether what the variant is stands in the panel's corner. */
  captioned: z.boolean().default(false),
  caption: TypeStyle.default(() => inStyle('heading')),
  /** Layers of the map that this panel leaves out, by id. */
  hiddenLayers: z.array(z.string()).default([]),
  shape: PanelShape.default({ by: 'rectangle', cornerMm: 0 }),
  /** The ground of the map here, in place of its own; an empty panel has it too. Null for the map's own. */
  background: Hex.nullable().default(null),
  /** The width over which the map fades away towards the edge, mm. */
  softEdgeMm: z.number().min(0).max(200).default(0),
  frame: z.object({
    colour: Hex,
    widthPt: z.number().min(0).max(20),
    /** More lines inside the first. */
    more: z.array(FrameLine).max(4).default([]),
  }),
  footprints: z.array(Footprint).max(20).default([]),
})
export type PanelSettings = z.infer<typeof PanelSettings>
