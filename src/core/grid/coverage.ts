/**
 * How much of each cell of a grid lies within an area, exactly for straight edges: for each edge the ground between it
 * and the right end of its rows is added where it begins and taken away where it ends, so that a sum along the row
 * gives the covered part (the accumulation of signed trapezoids that outlines of letters are filled by). Cells are of
 * side 1, x to the right and y downwards; rings may run either way, holes the other way.
 */
export type Coverage = {
  /** Adds an edge of a ring. */
  edge: (x0: number, y0: number, x1: number, y1: number) => void
  /**
   * Hands over each row that something was added to, from its first to its last cell: the covered part of column `c`
   * is the sum of `steps[from]` to `steps[c]`, below 0 where rings run the other way. Whoever looks at cells adds up on
   * the way, so that they are gone through once. Nothing is left afterwards.
   */
  rows: (take: (row: number, from: number, to: number, steps: Float64Array) => void) => void
}

/** Covered parts smaller than this are what is left over from reckoning. */
export const leastCovered = 1e-9
/** Edges that rise by less than this add nothing that could be seen. */
const flat = 1e-12
export function createCoverage(columns: number, rows: number): Coverage {
  const wide = columns + 2
  const sums = new Float64Array(wide * rows)
  const first = new Int32Array(rows).fill(columns)
  const last = new Int32Array(rows).fill(-1)

  /** A piece of an edge within one row, `dy` of it high, from `xa` to `xb`, within the columns. */
  function piece(row: number, dy: number, xa: number, xb: number): void {
    const [x0, x1] = xa < xb ? [xa, xb] : [xb, xa]
    const c0 = Math.min(columns, Math.floor(x0))
    const c1 = Math.ceil(x1)
    const at = row * wide
    if (c0 < first[row]) first[row] = c0
    if (c1 > last[row]) last[row] = c1
    if (c1 <= c0 + 1) {
      const middle = (x0 + x1) / 2 - c0
      sums[at + c0] += dy * (1 - middle)
      sums[at + c0 + 1] += dy * middle
      return
    }
    const steep = 1 / (x1 - x0)
    const head = 1 - (x0 - c0)
    const start = 0.5 * steep * head * head
    const tail = x1 - c1 + 1
    const end = 0.5 * steep * tail * tail
    sums[at + c0] += dy * start
    if (c1 === c0 + 2) sums[at + c0 + 1] += dy * (1 - start - end)
    else {
      const second = steep * (1.5 - (x0 - c0))
      sums[at + c0 + 1] += dy * (second - start)
      for (let c = c0 + 2; c < c1 - 1; c++) sums[at + c] += dy * steep
      const before = second + (c1 - c0 - 3) * steep
      sums[at + c1 - 1] += dy * (1 - before - end)
    }
    sums[at + c1] += dy * end
  }

  /** The same where it may reach beyond the columns: what lies before them covers all of a row. */
  function clipped(row: number, dy: number, xa: number, xb: number): void {
    const [least, most] = xa < xb ? [xa, xb] : [xb, xa]
    // What lies behind them leaves all of the row covered that is covered so far.
    if (most >= columns) last[row] = columns
    if (least >= columns) return
    if (most <= 0) return piece(row, dy, 0, 0)
    if (least >= 0 && most <= columns) return piece(row, dy, xa, xb)
    const span = most - least
    const before = Math.max(0, -least) / span
    const behind = Math.max(0, most - columns) / span
    if (before > 0) piece(row, dy * before, 0, 0)
    piece(row, dy * (1 - before - behind), Math.max(0, least), Math.min(columns, most))
  }

  return {
    edge(x0, y0, x1, y1) {
      if (Math.abs(y1 - y0) < flat) return
      const way = y0 < y1 ? 1 : -1
      const [xTop, top, xEnd, end] = way > 0 ? [x0, y0, x1, y1] : [x1, y1, x0, y0]
      const slope = (xEnd - xTop) / (end - top)
      let x = xTop + slope * (Math.max(0, top) - top)
      for (let row = Math.max(0, Math.floor(top)); row < Math.min(rows, end); row++) {
        const [from, to] = [Math.max(top, row), Math.min(end, row + 1)]
        const dy = to - from
        if (dy <= 0) continue
        const next = to === end ? xEnd : x + slope * dy
        clipped(row, way * dy, x, next)
        x = next
      }
    },
    rows(take) {
      for (let row = 0; row < rows; row++) {
        if (last[row] < 0) continue
        const at = row * wide
        const to = Math.min(columns, last[row] + 1)
        take(row, Math.min(first[row], columns), to, sums.subarray(at, at + wide))
        sums.fill(0, at + first[row], at + last[row] + 2)
        first[row] = columns
        last[row] = -1
      }
    },
  }
}
