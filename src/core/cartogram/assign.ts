import type { Steps } from '@/core/grid/steps'

/**
 * Gives each row a column of its own so that the costs in all are least: the Hungarian method with potentials (Kuhn
 * 1955, Munkres 1957) in the form of shortest augmenting paths, in time n² m.
 * @param cost `n` rows of `m` columns, `m` at least `n`
 * @returns the column of each row
 */
export function* leastCost(cost: Float64Array, n: number, m: number): Steps<Int32Array> {
  const [u, v] = [new Float64Array(n + 1), new Float64Array(m + 1)]
  const rowOf = new Int32Array(m + 1)
  const way = new Int32Array(m + 1)
  for (let i = 1; i <= n; i++) {
    rowOf[0] = i
    const least = new Float64Array(m + 1).fill(Infinity)
    const used = new Uint8Array(m + 1)
    let column = 0
    do {
      used[column] = 1
      const row = rowOf[column]
      let [delta, next] = [Infinity, 0]
      for (let j = 1; j <= m; j++) {
        if (used[j]) continue
        const reduced = cost[(row - 1) * m + j - 1] - u[row] - v[j]
        if (reduced < least[j]) {
          least[j] = reduced
          way[j] = column
        }
        if (least[j] < delta) {
          delta = least[j]
          next = j
        }
      }
      for (let j = 0; j <= m; j++)
        if (used[j]) {
          u[rowOf[j]] += delta
          v[j] -= delta
        } else least[j] -= delta
      column = next
    } while (rowOf[column] !== 0)
    while (column) {
      const before = way[column]
      rowOf[column] = rowOf[before]
      column = before
    }
    if (i % 16 === 0) yield i / n
  }
  const columns = new Int32Array(n)
  for (let j = 1; j <= m; j++) if (rowOf[j]) columns[rowOf[j] - 1] = j - 1
  return columns
}
