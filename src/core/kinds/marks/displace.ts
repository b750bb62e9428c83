import Flatbush from 'flatbush'

/** A symbol that may be pushed: where it belongs, and its radius, mm. */
export type Pushed = { x: number; y: number; r: number }

/** Fewer rounds for very many, so that they take no longer than some hundred did. */
const roundsFor = (count: number): number =>
  Math.round(Math.max(40, Math.min(160, 160_000 / Math.max(1, count))))

/**
 * Pushes discs apart until they no longer touch, each staying as near to its place as the others let it: in
 * every round discs that overlap go apart by half of what they overlap, the smaller one farther, and all are
 * drawn back a little, less from round to round (a dynamic relaxation as in Dorling 1996). The same discs
 * give the same places.
 */
export function pushApart(discs: Pushed[], gapMm: number): { x: number; y: number }[] {
  const at = discs.map(({ x, y }, i) => ({
    // Discs on one place could not tell which way to go.
    x: x + 1e-4 * Math.cos(2.4 * i),
    y: y + 1e-4 * Math.sin(2.4 * i),
  }))
  const rounds = roundsFor(discs.length)
  for (let round = 0; round < rounds; round++) {
    const index = new Flatbush(discs.length || 1)
    at.forEach(({ x, y }, i) => index.add(x - discs[i].r, y - discs[i].r, x + discs[i].r, y + discs[i].r))
    if (!discs.length) return []
    index.finish()
    const pull = 0.06 * Math.max(0, 1 - round / (0.7 * rounds))
    for (let i = 0; i < discs.length; i++) {
      at[i].x += pull * (discs[i].x - at[i].x)
      at[i].y += pull * (discs[i].y - at[i].y)
    }
    let moved = 0
    for (let i = 0; i < discs.length; i++) {
      const reach = discs[i].r + gapMm
      for (const j of index.search(at[i].x - reach, at[i].y - reach, at[i].x + reach, at[i].y + reach)) {
        if (j <= i) continue
        const [dx, dy] = [at[j].x - at[i].x, at[j].y - at[i].y]
        const far = Math.hypot(dx, dy) || 1e-9
        const over = discs[i].r + discs[j].r + gapMm - far
        if (over <= 1e-3) continue
        const share = discs[j].r / (discs[i].r + discs[j].r)
        at[i].x -= (dx / far) * over * share
        at[i].y -= (dy / far) * over * share
        at[j].x += (dx / far) * over * (1 - share)
        at[j].y += (dy / far) * over * (1 - share)
        moved = Math.max(moved, over)
      }
    }
    if (moved < 0.01 && pull === 0) break
  }
  return at
}
