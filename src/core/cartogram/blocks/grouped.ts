/** What is to be known of areas to put them together; one for each row. */
export type Grouping = {
  /** What each is sized by; not above zero is nothing. */
  amounts: Float64Array
  names: readonly string[]
  /** The region of each; null where there are none. */
  regions: readonly (string | null)[] | null
  /** Pairs of rows with a common border. */
  neighbours: { a: ArrayLike<number>; b: ArrayLike<number> }
}

export type GroupingWishes = {
  /** What a block stands for: what is less than half of it is put together. */
  value: number
  /** Whether the small are put together by rule. */
  byRule: boolean
  /** Groups by hand, of rows. */
  byHand: readonly { name: string; rows: readonly number[] }[]
  /** Rows that the rule leaves alone. */
  alone: ReadonlySet<number>
}

/** Areas that are one body: a single one, or several under a name. */
export type Body = { name: string; rows: number[]; amount: number; how: 'single' | 'rule' | 'hand' }

/**
 * Areas that are worth less than half a block are put together with others of their region, or without regions with
 * those small ones that they border on, until there is enough for half a block: the smallest neighbour comes in first.
 * @returns every row with an amount above zero, or in a group by hand, in one body; in the order of their first rows
 */
export function grouped(of: Grouping, { value, byRule, byHand, alone }: GroupingWishes): Body[] {
  const { amounts, names } = of
  const amount = (row: number): number => (amounts[row] > 0 ? amounts[row] : 0)
  const sum = (rows: readonly number[]): number =>
    rows.reduce((all, row) => Math.min(Number.MAX_VALUE, all + amount(row)), 0)
  const taken = new Set<number>()
  const bodies: Body[] = []
  for (const { name, rows } of byHand) {
    const own = rows.filter((row) => !taken.has(row))
    if (!(sum(own) > 0)) continue
    own.forEach((row) => taken.add(row))
    bodies.push({ name, rows: own, amount: sum(own), how: 'hand' })
  }
  const free = (row: number): boolean => amount(row) > 0 && !taken.has(row) && !alone.has(row)
  const beside = besideOf(of)
  if (byRule)
    for (const { small, region } of smallOnes(of, (row) => free(row) && amount(row) < value / 2, beside)) {
      // A group before may have taken some of them in.
      const rows = small.filter(free)
      if (!rows.length) continue
      const inRegion = (row: number): boolean => region === null || of.regions?.[row] === region
      while (sum(rows) < value / 2) {
        const near = new Set(rows.flatMap((row) => beside[row]))
        const open = [...(region === null ? near : amounts.keys())].filter(
          (row) => free(row) && inRegion(row) && !rows.includes(row),
        )
        const bordering = open.filter((row) => near.has(row))
        const next = (bordering.length ? bordering : open).sort((a, b) => amount(a) - amount(b) || a - b)[0]
        if (next === undefined) break
        rows.push(next)
      }
      if (rows.length < 2) continue
      rows.forEach((row) => taken.add(row))
      bodies.push({ name: groupName(rows, of, region), rows, amount: sum(rows), how: 'rule' })
    }
  for (let row = 0; row < amounts.length; row++)
    if (amount(row) > 0 && !taken.has(row))
      bodies.push({ name: names[row], rows: [row], amount: amount(row), how: 'single' })
  return distinct(bodies.sort((a, b) => a.rows[0] - b.rows[0]))
}

/** Rows by row that border on them. */
function besideOf({ amounts, neighbours: { a, b } }: Grouping): number[][] {
  const beside: number[][] = Array.from(amounts, () => [])
  for (let k = 0; k < a.length; k++) {
    beside[a[k]].push(b[k])
    beside[b[k]].push(a[k])
  }
  return beside
}

/** Small rows that belong together: those of a region, or those that border on each other. */
function smallOnes(
  { amounts, regions }: Grouping,
  isSmall: (row: number) => boolean,
  beside: number[][],
): { small: number[]; region: string | null }[] {
  const rows = [...amounts.keys()].filter(isSmall)
  const out: { small: number[]; region: string | null }[] = []
  const seen = new Set<number>()
  const regionOf = (row: number): string | null => regions?.[row] ?? null
  for (const start of rows) {
    if (seen.has(start)) continue
    const region = regionOf(start)
    const small = region === null ? [start] : rows.filter((row) => regionOf(row) === region)
    small.forEach((row) => seen.add(row))
    if (region === null)
      for (const row of small)
        for (const other of beside[row])
          if (isSmall(other) && !seen.has(other) && regionOf(other) === null) {
            seen.add(other)
            small.push(other)
          }
    out.push({ small, region })
  }
  return out
}

/** “A and B”, “Rest of the north”, or “A and 4 others”, with the largest first. */
function groupName(rows: number[], { amounts, names }: Grouping, region: string | null): string {
  const [first, second] = [...rows].sort((a, b) => (amounts[b] || 0) - (amounts[a] || 0) || a - b)
  if (rows.length === 2) return `${names[first]} and ${names[second]}`
  return region === null ? `${names[first]} and ${rows.length - 1} others` : `Rest of ${region}`
}

/** Names that no two bodies share. */
function distinct(bodies: Body[]): Body[] {
  const used = new Map<string, number>()
  return bodies.map((body) => {
    const times = (used.get(body.name) ?? 0) + 1
    used.set(body.name, times)
    return times > 1 ? { ...body, name: `${body.name} (${times})` } : body
  })
}
