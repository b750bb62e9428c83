import { classify, type Classification, type ClassifyOptions } from '@/core/classify/classify'
import type { Dataset } from '@/core/data/dataset'
import { createMemory } from '@/core/memory/memory'
import { groundOf, valuesOf, type Shown } from './values'

const remember = createMemory<Float64Array, Classification | null>('classes', { maxBytes: 16 * 2 ** 20 })

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

/** The classes of a field, reckoned once for each way of making them. */
export function classified(shown: Shown, options: ClassifyOptions, dataset: Dataset): Classification | null {
  const values = valuesOf(shown, dataset)
  return remember(values, keyOf(options), () => classify(values, options, groundOf(shown, dataset)))
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
  remember(valuesOf(shown, dataset), keyOf(options), () => result)
}
