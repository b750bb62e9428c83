/**
 * Middles of boxes in a row, as near as can be (least squares) to where they should stand without touching:
 * the widths are taken out, what is then out of order is pooled, and the widths are put back.
 */
export function spreadOut(wanted: number[], widths: number[], gap: number): number[] {
  const before: number[] = []
  wanted.forEach((_, i) => before.push(i ? before[i - 1] + (widths[i - 1] + widths[i]) / 2 + gap : 0))
  const pools: { sum: number; count: number }[] = []
  wanted.forEach((at, i) => {
    pools.push({ sum: at - before[i], count: 1 })
    while (
      pools.length > 1 &&
      pools[pools.length - 2].sum / pools[pools.length - 2].count >
        pools[pools.length - 1].sum / pools[pools.length - 1].count
    ) {
      const last = pools.pop()
      if (!last) break
      pools[pools.length - 1].sum += last.sum
      pools[pools.length - 1].count += last.count
    }
  })
  return pools
    .flatMap(({ sum, count }) => Array.from({ length: count }, () => sum / count))
    .map((at, i) => at + before[i])
}
