/** Blocks of one body as rows: r, first q and last q of each by turns, from the top; so they stand in a folio. */
export type Runs = number[]

/** @param addresses q and r by turns */
export function runsOf(addresses: ArrayLike<number>): Runs {
  const rows = new Map<number, number[]>()
  for (let k = 0; k < addresses.length; k += 2) {
    const known = rows.get(addresses[k + 1])
    if (known) known.push(addresses[k])
    else rows.set(addresses[k + 1], [addresses[k]])
  }
  const runs: Runs = []
  for (const r of [...rows.keys()].sort((a, b) => a - b)) {
    const qs = (rows.get(r) ?? []).sort((a, b) => a - b)
    let from = qs[0]
    for (let k = 1; k <= qs.length; k++) {
      if (qs[k] <= qs[k - 1] + 1) continue
      runs.push(r, from, qs[k - 1])
      from = qs[k]
    }
  }
  return runs
}

/** Addresses, q and r by turns, of rows of blocks. */
export function addressesOf(runs: Runs): number[] {
  const out: number[] = []
  for (let k = 0; k + 2 < runs.length; k += 3)
    for (let q = runs[k + 1]; q <= runs[k + 2]; q++) out.push(q, runs[k])
  return out
}

/** The text by which an address is known. */
export const addressKey = (q: number, r: number): string => `${q},${r}`
