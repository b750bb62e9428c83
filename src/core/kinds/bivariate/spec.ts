import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { classingShape } from '@/core/classify/spec'
import { Colouring } from '@/core/colour/colouring'
import { areaLookShape } from '../area-drawing'
import { squareIds } from './palettes'

/** A field with the way its values are put into classes. */
const Variable = z.object({
  field: z.string(),
  per: z.string().nullable(),
  perCount: z.number().positive(),
  ...classingShape,
})
export type Variable = z.infer<typeof Variable>

/**
 * How two fields are coloured together: each by a side of a field of colours, the first by colour and the
 * second by how strongly it shows, or the first by colour and the second, as an error, by how much of it is
 * told at all.
 */
export const forms = ['square', 'fading', 'suppressing'] as const

export const BivariateSettings = z.object({
  across: Variable,
  up: Variable,
  form: z.enum(forms),
  square: z.enum(squareIds),
  /** Colours of the first field where it has a scheme of its own. */
  colouring: Colouring,
  /** What colours fade into. */
  ground: Hex,
  /** Whether the legend's square stands on its corner. */
  turned: z.boolean(),
  ...areaLookShape,
})
export type BivariateSettings = z.infer<typeof BivariateSettings>
