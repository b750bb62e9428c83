/** What is timed; `before` makes ready for it and is not counted. */
export type Work = { run: () => void; before?: () => void }

/** Fewer runs let one noisy moment decide. */
const leastRuns = 7

const middleOf = (times: number[]): number => [...times].sort((a, b) => a - b)[times.length >> 1]

/**
 * Median times of several works in milliseconds, by name. They take turns, run by run, so that a slow minute of
 * the machine falls on all of them alike.
 */
export function interleaved<Name extends string>(
  works: Record<Name, Work | (() => void)>,
  runs = leastRuns,
): Record<Name, number> {
  const all = Object.entries(works) as [Name, Work | (() => void)][]
  const times = new Map(all.map(([name]) => [name, [] as number[]]))
  for (let run = 0; run < Math.max(runs, leastRuns); run++)
    for (const [name, work] of all) {
      const { run: doIt, before } = typeof work === 'function' ? { run: work, before: undefined } : work
      before?.()
      const start = performance.now()
      doIt()
      times.get(name)?.push(performance.now() - start)
    }
  return Object.fromEntries([...times].map(([name, list]) => [name, middleOf(list)])) as Record<Name, number>
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
