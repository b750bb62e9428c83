/**
 * A colour for each category so that no two that touch have the same one, where there are enough colours:
 * after Brélaz (1979), the category with the most colours already around it next, then the one that touches
 * most; each takes, of the colours not around it, the one used least so far, which keeps the map balanced.
 * Where all colours are around it already, it takes the one used least.
 */
export function colourApart(touching: ReadonlySet<number>[], colours: number): number[] {
  const given = touching.map(() => -1)
  const used = Array.from({ length: colours }, () => 0)
  const around = (c: number): Set<number> =>
    new Set([...touching[c]].map((other) => given[other]).filter((colour) => colour >= 0))
  for (let step = 0; step < touching.length; step++) {
    let next = -1
    for (let c = 0; c < touching.length; c++) {
      if (given[c] >= 0) continue
      if (
        next < 0 ||
        around(c).size > around(next).size ||
        (around(c).size === around(next).size && touching[c].size > touching[next].size)
      )
        next = c
    }
    const taken = around(next)
    const free = used.map((_, colour) => colour).filter((colour) => !taken.has(colour))
    const from = free.length ? free : used.map((_, colour) => colour)
    given[next] = from.reduce((best, colour) => (used[colour] < used[best] ? colour : best))
    used[given[next]]++
  }
  return given
}
