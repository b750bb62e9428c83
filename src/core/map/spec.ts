import { z } from 'zod'
import { LonLat, ScaleDenominator } from '@/core/scene/bounded'
import { Hex } from '@/core/scene/hex'
import { sortedKeys } from '@/core/registry/sorted-record'
import { kindIds, Symbology, type KindId } from '@/core/kinds/registry'
import { LabelSettings } from '@/core/labels/spec'
import { ProjectionSpec } from '@/core/projection/catalogue'
import { blendModes } from '@/core/scene/paint'
import { Graticule } from './graticule/spec'

export const Layer = z.object({
  id: z.string(),
  name: z.string(),
  datasetId: z.string(),
  symbology: Symbology,
  /** Settings of kinds used before, so that switching back loses nothing. */
  remembered: z.partialRecord(z.enum(kindIds as [KindId, ...KindId[]]), z.unknown()).overwrite(sortedKeys),
  visible: z.boolean(),
  opacity: z.number().min(0).max(1),
  blend: z.enum(blendModes),
  inLegend: z.boolean(),
  /** The group that it lies in; null for none. Layers of a group follow each other. */
  groupId: z.string().nullable().default(null),
  /** A formula that is true for the features to be shown; empty shows all. */
  filter: z.string().default(''),
  /** Drawn at scales between these denominators only; null leaves an end open. */
  scales: z
    .object({ closest: ScaleDenominator.nullable(), farthest: ScaleDenominator.nullable() })
    .default({ closest: null, farthest: null }),
  labels: LabelSettings.nullable().default(null),
  /** Whether labels of all layers keep off its symbols. */
  keepClear: z.boolean().default(true),
})
export type Layer = z.infer<typeof Layer>

/** A view of a map: what lies in the middle, the scale there, and by how much the map is turned, clockwise. */
export const MapView = z.object({
  centre: LonLat,
  scaleDenominator: ScaleDenominator,
  turnDeg: z.number().min(-180).max(180).optional(),
})
export type MapView = z.infer<typeof MapView>

/** Layers that are shown, hidden and blended together. */
export const LayerGroup = z.object({
  id: z.string(),
  name: z.string(),
  visible: z.boolean(),
  opacity: z.number().min(0).max(1),
  blend: z.enum(blendModes),
  folded: z.boolean(),
})
export type LayerGroup = z.infer<typeof LayerGroup>

/**
 * A kept extent of a map: a view, with its scale; or west, south, east and north in degrees (east may exceed
 * 180), shown whole in any window.
 */
export const Vantage = z.object({
  id: z.string(),
  name: z.string(),
  of: z.discriminatedUnion('by', [
    z.object({ by: z.literal('view'), view: MapView }),
    z.object({
      by: z.literal('extent'),
      extent: z.tuple([...LonLat.def.items, ...LonLat.def.items]),
    }),
  ]),
})
export type Vantage = z.infer<typeof Vantage>

/** Layers from the top of the stack to its bottom. */
export const MapSpec = z.object({
  id: z.string(),
  name: z.string(),
  projection: ProjectionSpec,
  background: Hex,
  /**
   * A tint of the globe where nothing else lies, within the edge of the world; null leaves the background.
   */
  sea: Hex.nullable().default(null),
  /** A tint of all areas of a dataset, beneath the layers. */
  land: z.object({ datasetId: z.string(), colour: Hex }).nullable().default(null),
  graticule: Graticule.nullable().default(null),
  /** The layer whose stretched cartogram all others follow; null for a plane that is not stretched. */
  stretchedBy: z.string().nullable().default(null),
  groups: z.array(LayerGroup).default([]),
  vantages: z.array(Vantage).default([]),
  layers: z.array(Layer),
})
export type MapSpec = z.infer<typeof MapSpec>

/** A layer of which only what is needed is said. */
export const makeLayer = (
  given: Pick<Layer, 'id' | 'name' | 'datasetId' | 'symbology'> & Partial<Layer>,
): Layer => ({
  remembered: {},
  visible: true,
  opacity: 1,
  blend: 'normal',
  inLegend: true,
  groupId: null,
  filter: '',
  scales: { closest: null, farthest: null },
  labels: null,
  keepClear: true,
  ...given,
})

/** A map of which only what is needed is said. */
export const makeMap = (
  given: Pick<MapSpec, 'id' | 'name' | 'projection' | 'layers'> & Partial<MapSpec>,
): MapSpec => ({
  background: '#ffffff',
  sea: null,
  land: null,
  graticule: null,
  stretchedBy: null,
  groups: [],
  vantages: [],
  ...given,
})
