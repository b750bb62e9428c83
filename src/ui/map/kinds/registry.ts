import type { KindId } from '@/core/kinds/registry'
import { bivariateUi } from './bivariate'
import { choroplethUi } from './choropleth'
import type { KindUi } from './kind-ui'
import { plainUi } from './plain'
import { rasterUi } from './raster'

/** The controls of every map kind, one line each. */
export const kindUi: Record<KindId, KindUi> = {
  choropleth: choroplethUi,
  bivariate: bivariateUi,
  plain: plainUi,
  raster: rasterUi,
}
