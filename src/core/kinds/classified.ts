import { classify, countedFor, type Classification, type ClassifyOptions } from '@/core/classify/classify'
import type { Dataset } from '@/core/data/dataset'
import { createMemory } from '@/core/memory/memory'
import { yearsPool } from './pool'
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

type Options = ClassifyOptions & { overYears?: boolean | null }

/**
 * The classes of a field, reckoned once for each way of making them: over its own values or, with `overYears`, over
 * those of all years of its series, counted for its own.
 */
export function classified(shown: Shown, options: Options, dataset: Dataset): Classification | null {
  const values = valuesOf(shown, dataset)
  const key = keyOf(options)
  const pool = yearsPool({ ...shown, overYears: options.overYears ?? null }, dataset)
  if (!pool) return remember(values, key, () => classify(values, options, groundOf(shown, dataset)))
  const over = remember(pool.values, key, () => classify(pool.values, options, pool.ground))
  return over && countedFor(over, values, options.setAside)
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
