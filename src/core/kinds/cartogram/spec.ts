import { z } from 'zod'
import { cartogramForms } from '@/core/cartogram/spec'
import { ChoroplethSettings } from '../choropleth/spec'

/** Areas sized by one field and shaded, as a choropleth, by another one. */
export const CartogramSettings = ChoroplethSettings.extend({
  form: z.enum(cartogramForms),
  /** What areas are sized by; tiles are all of one size. */
  size: z.string(),
  /** Shapes together are so large as this share of the ground of their areas. */
  fill: z.number().min(0.01).max(4),
})
export type CartogramSettings = z.infer<typeof CartogramSettings>
