import { z } from 'zod'
import { blockShapes } from '@/core/cartogram/block-grid'
import { cartogramForms } from '@/core/cartogram/spec'
import { sortedKeys } from '@/core/registry/sorted-record'
import { ChoroplethSettings } from '../choropleth/spec'

/** Areas sized by one field and shaded, as a choropleth, by another one. */
export const CartogramSettings = ChoroplethSettings.extend({
  form: z.enum(cartogramForms),
  /** What areas are sized by; tiles are all of one size. */
  size: z.string(),
  /** Shapes together are so large as this share of the ground of their areas. */
  fill: z.number().min(0.01).max(4),
  /** Tiles placed by hand; null lets them find their places. */
  tiles: z
    .object({
      shape: z.enum(blockShapes),
      /** Where the middle of tile (0, 0) lies. */
      origin: z.tuple([z.number().min(-540).max(540), z.number().min(-90).max(90)]),
      /** The tiles of the areas, by the keys of their rows. */
      cells: z
        .record(z.string(), z.tuple([z.int().min(-1e5).max(1e5), z.int().min(-1e5).max(1e5)]))
        .overwrite(sortedKeys),
    })
    .nullable()
    .default(null),
})
export type CartogramSettings = z.infer<typeof CartogramSettings>
