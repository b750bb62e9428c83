import { z } from 'zod'
import { sortedKeys } from '@/core/data/sorted-record'
import { kindIds, Symbology, type KindId } from '@/core/kinds/registry'
import { ProjectionSpec } from '@/core/projection/catalogue'
import { blendModes } from '@/core/scene/paint'

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
})
export type Layer = z.infer<typeof Layer>

/** A view of a map: what lies in the middle, and the scale there. */
export const MapView = z.object({
  centre: z.tuple([z.number(), z.number()]),
  scaleDenominator: z.number().positive(),
})
export type MapView = z.infer<typeof MapView>

/** Layers from the top of the stack to its bottom. */
export const MapSpec = z.object({
  id: z.string(),
  name: z.string(),
  projection: ProjectionSpec,
  background: z.string().regex(/^#[0-9a-f]{6}$/i),
  layers: z.array(Layer),
})
export type MapSpec = z.infer<typeof MapSpec>
