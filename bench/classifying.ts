import { naturalBreaks } from '@/core/classify/natural-breaks'
import { seededRandom } from '../demo/lindmere/random'
import { interleaved, type Ratio } from './measure'

/** Natural breaks of skewed values against sorting them. */
export function classifyingRatios(): Ratio[] {
  const random = seededRandom(3)
  const values = (n: number) =>
    Float64Array.from({ length: n }, () => Math.exp(3 * random() + random() ** 4 * 4))
  const ratio = (n: number, classes: number, budget: number): Ratio => {
    const unsorted = values(n)
    const sorted = unsorted.slice().sort()
    const times = interleaved({
      sorting: () => void unsorted.slice().sort(),
      classing: () => void naturalBreaks(sorted, classes),
    })
    return {
      name: `natural breaks, ${n.toLocaleString('en-GB')} values, ${classes} classes`,
      ratio: times.classing / times.sorting,
      budget,
      base: `sorting them (${times.sorting.toFixed(0)} ms)`,
    }
  }
  return [ratio(100_000, 5, 15), ratio(100_000, 7, 15), ratio(1_000_000, 7, 25)]
}
