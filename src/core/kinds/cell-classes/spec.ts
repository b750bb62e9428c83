import { z } from 'zod'
import { classingShape } from '@/core/classify/spec'
import { colouringShape } from '@/core/colour/colouring'
import { sortedKeys } from '@/core/registry/sorted-record'
import { Hex } from '@/core/scene/hex'

/** Cells of a raster in classes of their values, or each in the shade of its value. */
export const CellClassSettings = z.object({
  /** Counted from 0. */
  band: z.number().int().nonnegative(),
  /** What the values are, and their unit: a raster does not say. */
  what: z.string().max(120),
  unit: z.string().max(40),
  /** Whether values are mixed between the middles of cells, or each cell is flat. */
  cells: z.enum(['smooth', 'flat']),
  /** Cells without a value: their colour and their line in the legend; null leaves them clear and unsaid. */
  missing: z.object({ colour: Hex, label: z.string().max(200) }).nullable(),
  ...classingShape,
  ...colouringShape,
  /** Colours of single classes chosen by hand, by the number of the class from below. */
  ownColours: z.record(z.string(), Hex).overwrite(sortedKeys).default({}),
})
export type CellClassSettings = z.infer<typeof CellClassSettings>
