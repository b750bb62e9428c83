import type { Heights } from './gradient'

/** The lowest and the highest height within so many cells to either side; NaN where a cell has none itself. */
export function extremesAround(
  { values, columns, rows }: Heights,
  reach: number,
): { low: Float32Array; high: Float32Array } {
  const known = (empty: number): Float32Array =>
    Float32Array.from(values, (value) => (Number.isNaN(value) ? empty : value))
  const [low, high] = [known(Infinity), known(-Infinity)]
  for (let r = 0; r < rows; r++) {
    slide(low, { first: r * columns, step: 1, count: columns }, reach, (a, b) => a <= b)
    slide(high, { first: r * columns, step: 1, count: columns }, reach, (a, b) => a >= b)
  }
  for (let c = 0; c < columns; c++) {
    slide(low, { first: c, step: columns, count: rows }, reach, (a, b) => a <= b)
    slide(high, { first: c, step: columns, count: rows }, reach, (a, b) => a >= b)
  }
  for (let i = 0; i < values.length; i++) if (Number.isNaN(values[i])) low[i] = high[i] = NaN
  return { low, high }
}

/**
 * The best value of a window that slides along a line, each looked at once: those that can no more become the best are
 * dropped (the monotonic queue of Lemire 2006).
 */
function slide(
  field: Float32Array,
  { first, step, count }: { first: number; step: number; count: number },
  reach: number,
  isBetter: (a: number, b: number) => boolean,
): void {
  const line = new Float32Array(count)
  for (let i = 0; i < count; i++) line[i] = field[first + i * step]
  const queue = new Int32Array(count)
  let [head, tail] = [0, 0]
  for (let i = 0; i < count + reach; i++) {
    if (i < count) {
      while (tail > head && isBetter(line[i], line[queue[tail - 1]])) tail--
      queue[tail++] = i
    }
    const middle = i - reach
    if (middle < 0) continue
    while (queue[head] < middle - reach) head++
    field[first + middle * step] = line[queue[head]]
  }
}
