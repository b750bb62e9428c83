import Flatbush from 'flatbush'

/** A disc on paper, millimetres. */
export type Disc = { x: number; y: number; r: number }

/**
 * Places on each disc at which is looked whether another one covers it: a spiral with equal shares of the
 * area.
 */
const samples = Array.from({ length: 48 }, (_, i) => {
  const angle = i * Math.PI * (3 - Math.sqrt(5))
  const radius = Math.sqrt((i + 0.5) / 48)
  return [radius * Math.cos(angle), radius * Math.sin(angle)]
})

/**
 * The share (0 to 1) of all discs' area that lies under others, those later in the list lying on top. Good to
 * about 2 %.
 */
export function overlapShare(discs: Disc[]): number {
  if (discs.length < 2) return 0
  const index = new Flatbush(discs.length)
  for (const { x, y, r } of discs) index.add(x - r, y - r, x + r, y + r)
  index.finish()
  let [all, covered] = [0, 0]
  discs.forEach(({ x, y, r }, i) => {
    const over = index
      .search(x - r, y - r, x + r, y + r)
      .filter((j) => j > i && Math.hypot(discs[j].x - x, discs[j].y - y) < r + discs[j].r)
    const hidden = over.length
      ? samples.filter(([u, v]) =>
          over.some((j) => Math.hypot(x + r * u - discs[j].x, y + r * v - discs[j].y) < discs[j].r),
        ).length / samples.length
      : 0
    all += r * r
    covered += hidden * r * r
  })
  return all > 0 ? covered / all : 0
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
