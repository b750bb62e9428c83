import { classify, type Classification, type ClassifyOptions } from '@/core/classify/classify'
import type { Dataset } from '@/core/data/dataset'
import { groundOf, valuesOf, type Shown } from './values'

const memory = new WeakMap<Float64Array, Map<string, Classification | null>>()

/** All that classes depend on besides the values and the ground under them. */
const keyOf = ({
  method,
  classes,
  manualBreaks,
  rounded,
  deviations,
  step,
  midpoint,
  locked,
  inclusive,
  setAside,
}: ClassifyOptions): string =>
  JSON.stringify([
    method,
    classes,
    method === 'manual' ? manualBreaks : null,
    rounded,
    deviations,
    step,
    midpoint,
    locked,
    inclusive,
    setAside?.map(({ from, to }) => [from, to]),
  ])

function known(shown: Shown, dataset: Dataset): Map<string, Classification | null> {
  const values = valuesOf(shown, dataset)
  const classifications = memory.get(values) ?? new Map<string, Classification | null>()
  memory.set(values, classifications)
  return classifications
}

/** The classes of a field, reckoned once for each way of making them. */
export function classified(shown: Shown, options: ClassifyOptions, dataset: Dataset): Classification | null {
  const classifications = known(shown, dataset)
  const key = keyOf(options)
  if (!classifications.has(key)) {
    if (classifications.size > 40) classifications.clear()
    classifications.set(key, classify(valuesOf(shown, dataset), options, groundOf(shown, dataset)))
  }
  return classifications.get(key) ?? null
}

/**
 * Takes over classes that were reckoned elsewhere from the same values, so that they need not be reckoned
 * here.
 */
export function takeClassified(
  shown: Shown,
  options: ClassifyOptions,
  dataset: Dataset,
  result: Classification,
): void {
  known(shown, dataset).set(keyOf(options), result)
}
