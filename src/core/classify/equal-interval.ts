import type { BreakMethod } from './break-method'

/** Classes of equal width between the ends. */
export const equalInterval: BreakMethod = (_, classes, { low, high }) =>
  Array.from({ length: classes - 1 }, (_, i) => low + ((high - low) * (i + 1)) / classes)
