import type { KindId } from '@/core/kinds/registry'
import { bivariateUi } from './bivariate'
import { categoriesUi } from './categories'
import { choroplethUi } from './choropleth'
import { flowsUi } from './flows'
import type { KindUi } from './kind-ui'
import { plainUi } from './plain'
import { rasterUi } from './raster'
import { symbolsUi } from './symbols'

/** The controls of every map kind, one line each. */
export const kindUi: Record<KindId, KindUi> = {
  choropleth: choroplethUi,
  bivariate: bivariateUi,
  symbols: symbolsUi,
  categories: categoriesUi,
  flows: flowsUi,
  plain: plainUi,
  raster: rasterUi,
}
