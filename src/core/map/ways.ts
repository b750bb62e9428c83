import { classify, computedIds, qualityOf, type MethodId } from '@/core/classify/classify'
import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import { classesOf } from './compose-map'
import type { Layer } from './spec'

/** A method with the classes that it gives: their fit (0 to 1), how many there are and how few values the smallest has. */
export type Way = { id: MethodId; gvf: number; tabular: number; smallest: number; classes: number }

/** Every method that gives at least two classes of a layer's values, the best fit first. */
export function waysOf(layer: Layer, prepared: Prepared, which = 0): Way[] {
  const classes = classesOf(layer, prepared, which)
  const classing = kindOf(layer.symbology.kind).classings(layer.symbology.settings).at(which)
  if (!classes || !classing) return []
  const { values, ground } = classes.pool ?? classes
  return computedIds
    .flatMap((id): Way[] => {
      const result = classify(values, { ...classing, method: id }, ground)
      if (!result || result.counts.length < 2) return []
      const { tabular, smallest } = qualityOf(values, result, classing.setAside, { sizes: null, neighbours: null })
      return [{ id, gvf: result.gvf, tabular, smallest, classes: result.counts.length }]
    })
    .sort((a, b) => b.gvf - a.gvf)
}
