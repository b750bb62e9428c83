/** A disc on paper, millimetres. */
export type Disc = { x: number; y: number; r: number }

/** So many chords are laid through all discs together: the fewer discs, the more through each. */
const chordsFor = (discs: number): number => Math.min(400_000, Math.max(4000, 40 * discs))

/**
 * The share (0 to 1) of all discs' area that lies under others. What is hidden is what all of them have together less
 * what their union has, whichever lies on top; both are measured along parallel lines at equal distances. Good to about
 * 2 %, in a time that grows with the number of discs alone, however much they lie on each other.
 */
export function overlapShare(discs: Disc[]): number {
  const across = discs.reduce((sum, { r }) => sum + 2 * r, 0)
  if (discs.length < 2 || !(across > 0)) return 0
  const apart = across / chordsFor(discs.length)
  const rowsOf = ({ y, r }: Disc): [first: number, last: number] => [
    Math.ceil((y - r) / apart - 0.5),
    Math.floor((y + r) / apart - 0.5),
  ]
  const chords = new Map<number, number>()
  for (const disc of discs) {
    const [first, last] = rowsOf(disc)
    for (let row = first; row <= last; row++) chords.set(row, (chords.get(row) ?? 0) + 1)
  }
  const lines = new Map(
    [...chords].map(([row, count]) => [
      row,
      { starts: new Float64Array(count), ends: new Float64Array(count), filled: 0 },
    ]),
  )
  for (const disc of discs) {
    const [first, last] = rowsOf(disc)
    for (let row = first; row <= last; row++) {
      const line = lines.get(row)
      if (!line) continue
      const half = Math.sqrt(Math.max(0, disc.r ** 2 - ((row + 0.5) * apart - disc.y) ** 2))
      line.starts[line.filled] = disc.x - half
      line.ends[line.filled++] = disc.x + half
    }
  }
  let [all, seen] = [0, 0]
  for (const { starts, ends } of lines.values()) {
    starts.sort()
    ends.sort()
    // The whole line is gone along: where as many chords ended as began nothing lies.
    for (let i = 0, from = starts[0]; i < starts.length; i++) {
      all += ends[i] - starts[i]
      if (i + 1 < starts.length && starts[i + 1] <= ends[i]) continue
      seen += ends[i] - from
      from = starts[i + 1]
    }
  }
  return all > 0 ? 1 - seen / all : 0
}

/**
 * By how much sizes are to be multiplied so that no more than `limit` of the area is covered; 1 where that
 * holds already.
 */
export function shrinkTo(discs: Disc[], limit: number): number {
  const steps = shrinking(discs, limit)
  for (let step = steps.next(); ; step = steps.next()) if (step.done) return step.value.factor
}

/** The share that is covered and the factor, reckoned in steps between which something else can be done. */
export function* shrinking(
  discs: Disc[],
  limit: number,
): Generator<undefined, { share: number; factor: number }> {
  const share = overlapShare(discs)
  if (share <= limit) return { share, factor: 1 }
  let [low, high] = [0.02, 1]
  for (let i = 0; i < 12; i++) {
    yield
    const middle = (low + high) / 2
    if (overlapShare(discs.map(({ x, y, r }) => ({ x, y, r: r * middle }))) <= limit) low = middle
    else high = middle
  }
  return { share, factor: low }
}
