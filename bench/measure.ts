/** Median time of `work` in milliseconds over `runs` runs; `before` is not counted. */
export function median(runs: number, work: () => void, before: () => void = () => undefined): number {
  const times = Array.from({ length: runs }, () => {
    before()
    const start = performance.now()
    work()
    return performance.now() - start
  }).sort((a, b) => a - b)
  return times[runs >> 1]
}

export type Ratio = { name: string; ratio: number; budget: number; base: string }

/** One line for each ratio; returns whether all are within their budgets. */
export function report(ratios: Ratio[]): boolean {
  const width = Math.max(...ratios.map(({ name }) => name.length))
  for (const { name, ratio, budget, base } of ratios)
    console.log(
      `${ratio <= budget ? 'ok  ' : 'OVER'}  ${name.padEnd(width)}  ${ratio.toFixed(3).padStart(7)} × ${base} (at most ${budget})`,
    )
  return ratios.every(({ ratio, budget }) => ratio <= budget)
}
