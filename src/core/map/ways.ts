import {
  classify,
  computedIds,
  qualityOf,
  type Classification,
  type MethodId,
  type Quality,
} from '@/core/classify/classify'
import type { Classing } from '@/core/classify/spec'
import type { Prepared } from '@/core/data/prepare'
import { takeClassified } from '@/core/kinds/classified'
import type { Classes } from '@/core/kinds/kind'
import { kindOf } from '@/core/kinds/registry'
import type { Shown } from '@/core/kinds/values'
import { classesOf } from './layer-plan'
import type { Layer } from './spec'

/** A method with the classes that it gives: their fit (0 to 1) and how few values the smallest has. */
export type Way = { id: MethodId; result: Classification; tabular: number; smallest: number }

const parts = (
  layer: Layer,
  prepared: Prepared,
  which: number,
): { classes: Classes; classing: Classing } | null => {
  const classes = classesOf(layer, prepared, which)
  const classing = kindOf(layer.symbology.kind).classings(layer.symbology.settings).at(which)
  return classes && classing ? { classes, classing } : null
}

/** One method on a layer's values, or those of all layers that share its scheme. */
export function wayOf(layer: Layer, prepared: Prepared, which: number, id: MethodId): Way | null {
  const sorted = parts(layer, prepared, which)
  if (!sorted) return null
  const { values, ground } = sorted.classes.pool ?? sorted.classes
  const result = classify(values, { ...sorted.classing, method: id }, ground)
  if (!result || result.counts.length < 2) return null
  const { tabular, smallest } = qualityOf(values, result, sorted.classing.setAside, {
    sizes: null,
    neighbours: null,
  })
  return { id, result, tabular, smallest }
}

/** Every method that gives at least two classes of a layer's values, the best fit first. */
export const waysOf = (layer: Layer, prepared: Prepared, which = 0): Way[] =>
  computedIds
    .flatMap((id) => wayOf(layer, prepared, which, id) ?? [])
    .sort((a, b) => b.result.gvf - a.result.gvf)

/**
 * What is said of the classes that a layer has: their quality, and what rounding takes from the fit, or would
 * take.
 */
export type Judgement = { quality: Quality; roundingCost: number }

export function judge(layer: Layer, prepared: Prepared, which = 0): Judgement | null {
  const sorted = parts(layer, prepared, which)
  if (!sorted) return null
  const { classes, classing } = sorted
  const { values, ground } = classes.pool ?? classes
  const rounds = !classing.rounded && classing.method !== 'manual'
  return {
    quality: qualityOf(classes.values, classes.result, classing.setAside, classes.ground),
    roundingCost: rounds
      ? (classify(values, { ...classing, rounded: true }, ground)?.roundingCost ?? 0)
      : classes.result.roundingCost,
  }
}

/** Takes over the classes of a method that were reckoned elsewhere, for a layer with a scheme of its own. */
export function takeWay(layer: Layer, prepared: Prepared, which: number, { id, result }: Way): void {
  const sorted = parts(layer, prepared, which)
  if (sorted && !sorted.classes.pool)
    takeClassified(
      sorted.classing as Classing & Shown,
      { ...sorted.classing, method: id },
      prepared.dataset,
      result,
    )
}
