import type { KindId } from '@/core/kinds/registry'
import { bivariateUi } from './bivariate'
import { blocksUi } from './blocks'
import { categoriesUi } from './categories'
import { cartogramUi } from './cartogram'
import { cellCategoriesUi } from './cell-categories'
import { cellClassesUi } from './cell-classes'
import { cellsUi } from './cells'
import { chartsUi } from './charts'
import { choroplethUi } from './choropleth'
import { contrastUi } from './contrast'
import { densityUi } from './density'
import { dotsUi } from './dots'
import { flowsUi } from './flows'
import { glowUi } from './glow'
import { interpolatedUi } from './interpolated'
import { isolinesUi } from './isolines'
import type { KindUi } from './kind-ui'
import { linesUi } from './lines'
import { plainUi } from './plain'
import { potentialUi } from './potential'
import { rasterUi } from './raster'
import { reliefUi } from './relief/settings'
import { symbolsUi } from './symbols'

/** The controls of every map kind, one line each. */
export const kindUi: Record<KindId, KindUi> = {
  choropleth: choroplethUi,
  bivariate: bivariateUi,
  symbols: symbolsUi,
  cartogram: cartogramUi,
  blocks: blocksUi,
  dots: dotsUi,
  density: densityUi,
  cells: cellsUi,
  interpolated: interpolatedUi,
  potential: potentialUi,
  contrast: contrastUi,
  isolines: isolinesUi,
  categories: categoriesUi,
  flows: flowsUi,
  charts: chartsUi,
  lines: linesUi,
  glow: glowUi,
  plain: plainUi,
  raster: rasterUi,
  relief: reliefUi,
  'cell-classes': cellClassesUi,
  'cell-categories': cellCategoriesUi,
}
